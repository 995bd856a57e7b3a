package org.vinecellar.service.guard;

import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.HostAndPort;
import io.vertx.core.net.SocketAddress;
import jakarta.inject.Singleton;
import java.net.InetAddress;
import java.net.URI;
import java.net.UnknownHostException;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.service.config.VineConfig;

/**
 * Where the portal is found, for addresses that it tells. What a request calls it is believed only
 * when it can be nothing else than this machine: whoever sends a forged Host header must not get to
 * choose where a link leads.
 */
@Singleton
public class PublicAddress {
  private static final Set<String> HERE = Set.of("localhost", "127.0.0.1", "::1", "[::1]");

  private final @Nullable URI configured;
  private final @Nullable String ownName;

  /** As the settings say. */
  public PublicAddress(VineConfig config) {
    this.configured = config.publicUrl().map(PublicAddress::checked).orElse(null);
    this.ownName = ownName();
  }

  private static URI checked(String url) {
    URI uri = URI.create(url.replaceAll("/+$", ""));
    boolean web = "http".equals(uri.getScheme()) || "https".equals(uri.getScheme());
    boolean bare = uri.getPath() == null || uri.getPath().isEmpty();
    if (!web || uri.getHost() == null || !bare) {
      throw new IllegalArgumentException(
          "VINE_PUBLIC_URL is “"
              + url
              + "”; it takes scheme and host, and a port if need be, as in"
              + " https://vine.example.org");
    }
    return uri;
  }

  private static @Nullable String ownName() {
    try {
      return InetAddress.getLocalHost().getHostName().toLowerCase(Locale.ROOT);
    } catch (UnknownHostException e) {
      return null;
    }
  }

  /** Whether the portal is known to be reached by HTTPS. */
  public boolean isHttps() {
    return configured != null && "https".equals(configured.getScheme());
  }

  /** Scheme, host and port, without a slash at the end. */
  public String base(HttpServerRequest request) {
    if (configured != null) {
      return configured.toString();
    }
    String scheme = request.scheme() == null ? "http" : request.scheme();
    HostAndPort named = request.authority();
    SocketAddress local = request.localAddress();
    String localHost = local == null ? "127.0.0.1" : local.hostAddress();
    boolean believed =
        named != null && isThisMachine(named.host().toLowerCase(Locale.ROOT), localHost);
    if (believed) {
      return scheme + "://" + (named.port() < 0 ? named.host() : named.host() + ":" + named.port());
    }
    return scheme
        + "://"
        + (localHost.indexOf(':') >= 0 ? "[" + localHost + "]" : localHost)
        + (local == null ? "" : ":" + local.port());
  }

  private boolean isThisMachine(String host, String localAddress) {
    return HERE.contains(host) || host.equals(localAddress) || host.equals(ownName);
  }

  /** The same with another port, for what is on an origin of its own. */
  public String base(HttpServerRequest request, int port) {
    URI uri = URI.create(base(request));
    return uri.getScheme() + "://" + uri.getHost() + ":" + port;
  }
}
