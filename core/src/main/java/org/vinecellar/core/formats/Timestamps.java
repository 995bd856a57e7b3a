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
    Instant plain = plain(stripped);
    return sensible(plain == null ? parsed(stripped, text.strip()) : plain);
  }

  /** {@code 2026-11-20T03:00:00}, as most files have it; null for all else, and what is no time. */
  private static @Nullable Instant plain(String iso) {
    if (iso.length() != 19
        || iso.charAt(4) != '-'
        || iso.charAt(7) != '-'
        || iso.charAt(10) != 'T') {
      return null;
    }
    int month = two(iso, 5);
    int day = two(iso, 8);
    int hour = two(iso, 11);
    int minute = two(iso, 14);
    int second = two(iso, 17);
    boolean colons = iso.charAt(13) == ':' && iso.charAt(16) == ':';
    boolean fits =
        month >= 1 && month <= 12 && day >= 1 && hour <= 23 && minute <= 59 && second <= 59;
    int year = two(iso, 0) * 100 + two(iso, 2);
    if (!colons || !fits || hour < 0 || minute < 0 || second < 0 || year < 0 || day > 28) {
      return null;
    }
    return LocalDateTime.of(year, month, day, hour, minute, second).toInstant(ZoneOffset.UTC);
  }

  /** Two digits as a number; far below 0 when they are none. */
  private static int two(String text, int at) {
    int tens = text.charAt(at) - '0';
    int ones = text.charAt(at + 1) - '0';
    return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? tens * 10 + ones : -10_000;
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
