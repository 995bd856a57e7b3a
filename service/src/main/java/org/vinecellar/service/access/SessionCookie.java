package org.vinecellar.service.access;

import jakarta.inject.Singleton;
import jakarta.ws.rs.core.NewCookie;
import java.time.Duration;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.PublicAddress;

/** The cookie that carries a person's session. */
@Singleton
public class SessionCookie {
  public static final String NAME = "vine_session";

  private final VineConfig config;
  private final PublicAddress address;

  SessionCookie(VineConfig config, PublicAddress address) {
    this.config = config;
    this.address = address;
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
    return new NewCookie.Builder(NAME)
        .value(value)
        .path("/")
        .maxAge((int) age.toSeconds())
        .httpOnly(true)
        .secure(config.session().secureCookie().orElse(secure || address.isHttps()))
        .sameSite(NewCookie.SameSite.LAX)
        .build();
  }
}
