package org.vinecellar.client.history;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Times as file names hold them: ISO 8601 with or without its signs, to the day, minute or second,
 * in UTC when no offset is told; or seconds or milliseconds since 1970.
 */
public final class Times {
  private static final Pattern EPOCH = Pattern.compile("[0-9]{10}(?:[0-9]{3})?");
  private static final Pattern WRITTEN =
      Pattern.compile(
          "([0-9]{4})[-._]?([0-9]{2})[-._]?([0-9]{2})"
              + "(?:[T _-]?([0-9]{2})[:._-]?([0-9]{2})(?:[:._-]?([0-9]{2})(?:[.,][0-9]+)?)?)?"
              + "(Z|[+-][0-9]{2}:?[0-9]{2})?");

  private Times() {}

  /** Empty when the text is no such time. */
  public static Optional<Instant> read(String text) {
    if (EPOCH.matcher(text).matches()) {
      long number = Long.parseLong(text);
      return Optional.of(
          text.length() == 10 ? Instant.ofEpochSecond(number) : Instant.ofEpochMilli(number));
    }
    Matcher m = WRITTEN.matcher(text);
    if (!m.matches()) {
      return Optional.empty();
    }
    try {
      LocalDateTime time =
          LocalDateTime.of(
              number(m.group(1)),
              number(m.group(2)),
              number(m.group(3)),
              number(m.group(4)),
              number(m.group(5)),
              number(m.group(6)));
      String offset = m.group(7);
      return Optional.of(time.toInstant(offset == null ? ZoneOffset.UTC : ZoneOffset.of(offset)));
    } catch (DateTimeException e) {
      return Optional.empty();
    }
  }

  private static int number(@Nullable String digits) {
    return digits == null ? 0 : Integer.parseInt(digits);
  }
}
