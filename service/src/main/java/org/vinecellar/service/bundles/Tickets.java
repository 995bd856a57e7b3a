package org.vinecellar.service.bundles;

import jakarta.inject.Singleton;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.time.Instant;
import java.time.InstantSource;
import java.time.temporal.ChronoUnit;
import java.util.Base64;
import java.util.Optional;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.vinecellar.core.access.ServiceSecrets;

/**
 * Addresses of bundles on their own origin, where nobody is signed in: who has one may read that
 * one bundle for a time. Signed with HMAC-SHA-256 (RFC 2104).
 */
@Singleton
public class Tickets {
  private static final long HOURS = 12;

  private final ServiceSecrets secrets;
  private final InstantSource clock;

  /** What a ticket is good for. */
  record Ticket(int projectId, long bundleId) {}

  Tickets(ServiceSecrets secrets, InstantSource clock) {
    this.secrets = secrets;
    this.clock = clock;
  }

  /** A ticket for one bundle. */
  String issue(int projectId, long bundleId) {
    // To the hour, so that a page that is opened again has the same address.
    Instant until = clock.instant().truncatedTo(ChronoUnit.HOURS).plus(HOURS, ChronoUnit.HOURS);
    String text = projectId + "." + bundleId + "." + until.getEpochSecond();
    return text + "." + signature(text);
  }

  /** What a ticket says; empty when it is forged, or its time is over. */
  Optional<Ticket> read(String ticket) {
    int last = ticket.lastIndexOf('.');
    if (!ticket.matches("[0-9]{1,9}\\.[0-9]{1,15}\\.[0-9]{1,12}\\.[A-Za-z0-9_-]{43}")) {
      return Optional.empty();
    }
    String text = ticket.substring(0, last);
    boolean signed =
        MessageDigest.isEqual(
            signature(text).getBytes(StandardCharsets.US_ASCII),
            ticket.substring(last + 1).getBytes(StandardCharsets.US_ASCII));
    String[] words = text.split("\\.");
    boolean valid = Long.parseLong(words[2]) > clock.instant().getEpochSecond();
    return signed && valid
        ? Optional.of(new Ticket(Integer.parseInt(words[0]), Long.parseLong(words[1])))
        : Optional.empty();
  }

  private String signature(String text) {
    try {
      Mac mac = Mac.getInstance("HmacSHA256");
      mac.init(new SecretKeySpec(secrets.secret("bundle-tickets"), "HmacSHA256"));
      return Base64.getUrlEncoder()
          .withoutPadding()
          .encodeToString(mac.doFinal(text.getBytes(StandardCharsets.UTF_8)));
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException("every Java platform has HmacSHA256", e);
    }
  }
}
