package org.vinecellar.service.access;

import jakarta.inject.Singleton;
import jakarta.ws.rs.core.NewCookie;
import java.time.Duration;
import org.vinecellar.service.config.VineConfig;

/** The cookie that carries a person's session. */
@Singleton
public class SessionCookie {
  static final String NAME = "vine_session";

  private final VineConfig config;

  SessionCookie(VineConfig config) {
    this.config = config;
  }

  NewCookie with(String secret) {
    return cookie(secret, config.session().length());
  }

  NewCookie gone() {
    return cookie("", Duration.ZERO);
  }

  private NewCookie cookie(String value, Duration age) {
    return new NewCookie.Builder(NAME)
        .value(value)
        .path("/")
        .maxAge((int) age.toSeconds())
        .httpOnly(true)
        .secure(config.session().secureCookie())
        .sameSite(NewCookie.SameSite.LAX)
        .build();
  }
}
