package org.vinecellar.service.access;

import io.vertx.core.http.Cookie;
import io.vertx.core.http.HttpServerRequest;
import jakarta.inject.Singleton;
import jakarta.ws.rs.core.NewCookie;
import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.PublicAddress;

/**
 * The cookie that carries a person's session. Under HTTPS its name begins so that browsers take it
 * from this very host alone (RFC 6265bis, section 4.1.3.2): a page of another host under the same
 * domain cannot set one in its place.
 */
@Singleton
public class SessionCookie {
  private static final String NAME = "vine_session";
  private static final String SEALED = "__Host-" + NAME;

  private final VineConfig config;
  private final PublicAddress address;

  SessionCookie(VineConfig config, PublicAddress address) {
    this.config = config;
    this.address = address;
  }

  /** The secret of the session that a request belongs to; null for none. */
  public @Nullable String in(HttpServerRequest request) {
    boolean sealed = isSecure("https".equals(request.scheme()));
    Cookie cookie = request.getCookie(sealed ? SEALED : NAME);
    return cookie == null ? null : cookie.getValue();
  }

  private boolean isSecure(boolean https) {
    return config.session().secureCookie().orElse(https || address.isHttps());
  }

  /**
   * @param secure whether the request came by HTTPS
   */
  NewCookie with(String secret, boolean secure) {
    return cookie(secret, config.session().length(), secure);
  }

  NewCookie gone(boolean secure) {
    return cookie("", Duration.ZERO, secure);
  }

  private NewCookie cookie(String value, Duration age, boolean secure) {
    boolean sealed = isSecure(secure);
    return new NewCookie.Builder(sealed ? SEALED : NAME)
        .value(value)
        .path("/")
        .maxAge((int) age.toSeconds())
        .httpOnly(true)
        .secure(sealed)
        .sameSite(NewCookie.SameSite.LAX)
        .build();
  }
}
