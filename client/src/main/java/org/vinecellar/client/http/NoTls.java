package org.vinecellar.client.http;

import java.security.SecureRandom;
import javax.net.ssl.KeyManager;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLContextSpi;
import javax.net.ssl.SSLEngine;
import javax.net.ssl.SSLParameters;
import javax.net.ssl.SSLServerSocketFactory;
import javax.net.ssl.SSLSessionContext;
import javax.net.ssl.SSLSocketFactory;
import javax.net.ssl.TrustManager;
import org.jspecify.annotations.Nullable;

/**
 * In place of TLS for a portal that is asked by plain http. The HTTP client gets all of TLS ready
 * otherwise, whether it is used or not, which takes a fifth of a second.
 */
final class NoTls extends SSLContext {
  NoTls() {
    super(new Nothing(), null, "none");
  }

  private static final class Nothing extends SSLContextSpi {
    private static IllegalStateException none() {
      return new IllegalStateException("a portal that is asked by http has no TLS");
    }

    @Override
    protected SSLParameters engineGetDefaultSSLParameters() {
      return new SSLParameters();
    }

    @Override
    protected SSLParameters engineGetSupportedSSLParameters() {
      return new SSLParameters();
    }

    @Override
    protected void engineInit(
        KeyManager @Nullable [] keys,
        TrustManager @Nullable [] trusted,
        @Nullable SecureRandom random) {
      throw none();
    }

    @Override
    protected SSLSocketFactory engineGetSocketFactory() {
      throw none();
    }

    @Override
    protected SSLServerSocketFactory engineGetServerSocketFactory() {
      throw none();
    }

    @Override
    protected SSLEngine engineCreateSSLEngine() {
      throw none();
    }

    @Override
    protected SSLEngine engineCreateSSLEngine(String host, int port) {
      throw none();
    }

    @Override
    protected SSLSessionContext engineGetServerSessionContext() {
      throw none();
    }

    @Override
    protected SSLSessionContext engineGetClientSessionContext() {
      throw none();
    }
  }
}
