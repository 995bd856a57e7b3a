package org.vinecellar.core.formats;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Reads points in time as frameworks spell them. */
public final class Timestamps {
  private static final Instant EARLIEST = Instant.parse("1990-01-01T00:00:00Z");
  private static final Instant LATEST = Instant.parse("2200-01-01T00:00:00Z");

  private Timestamps() {}

  /**
   * An ISO 8601 date and time, with or without zone (none means UTC), or RFC 1123.
   *
   * @return null when it is not understood, or no time at which a test can have run, such as 1970
   */
  public static @Nullable Instant parse(String text) {
    String stripped = text.strip();
    if (stripped.length() < 10 || stripped.length() > 64) {
      return null;
    }
    if (stripped.endsWith(" UTC")) {
      stripped = stripped.substring(0, stripped.length() - 4) + "Z";
    }
    if (stripped.charAt(10 < stripped.length() ? 10 : 9) == ' ') {
      stripped = stripped.substring(0, 10) + "T" + stripped.substring(11);
    }
    return sensible(parsed(stripped, text.strip()));
  }

  /** The same time when a test can have run then, else null. */
  public static @Nullable Instant sensible(@Nullable Instant instant) {
    return instant == null || instant.isBefore(EARLIEST) || instant.isAfter(LATEST)
        ? null
        : instant;
  }

  private static @Nullable Instant parsed(String iso, String original) {
    try {
      if (Character.isDigit(iso.charAt(0))) {
        boolean zoned = iso.endsWith("Z") || iso.lastIndexOf('+') > 10 || iso.lastIndexOf('-') > 10;
        return zoned
            ? OffsetDateTime.parse(withColon(iso)).toInstant()
            : LocalDateTime.parse(iso).toInstant(ZoneOffset.UTC);
      }
      return OffsetDateTime.parse(
              original, DateTimeFormatter.RFC_1123_DATE_TIME.withLocale(Locale.ROOT))
          .toInstant();
    } catch (DateTimeException e) {
      return null;
    }
  }

  /** {@code +0200} as {@code +02:00}. */
  private static String withColon(String iso) {
    int sign = Math.max(iso.lastIndexOf('+'), iso.lastIndexOf('-'));
    return sign > 10 && iso.length() == sign + 5 && iso.indexOf(':', sign) < 0
        ? iso.substring(0, sign + 3) + ":" + iso.substring(sign + 3)
        : iso;
  }
}
