package org.vinecellar.core.formats;

import java.math.BigDecimal;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.results.TestResult;

/** Reads durations as frameworks spell them. */
public final class Seconds {
  private static final Pattern CLOCK =
      Pattern.compile("(?:(\\d{1,4}):)?(\\d{1,3}):(\\d{1,2}(?:\\.\\d{1,9})?)");
  private static final Pattern NUMBER =
      Pattern.compile("([0-9]{1,15}(?:\\.[0-9]{0,18})?|\\.[0-9]{1,18})(?:[eE]([+-]?[0-9]{1,2}))?");
  private static final long MAX_MICROS = 100L * 366 * 86_400 * 1_000_000;

  private Seconds() {}

  /**
   * A duration in microseconds. Understood: {@code 1.25}, {@code 8.9e-05}, {@code 1,234.5}
   * (thousands), {@code 0,25} (decimal comma), {@code 1.1s}, {@code 12 ms}, {@code 01:02:03.5}.
   *
   * @return {@link TestResult#NO_DURATION} when the text is empty, negative or not understood
   */
  public static long toMicros(String text) {
    return toMicros(text.toCharArray(), 0, text.length());
  }

  /** The same for a part of a buffer, without a text of its own for the usual spelling. */
  public static long toMicros(char[] buffer, int from, int to) {
    long quick = quick(buffer, from, to);
    return quick >= 0 ? quick : slow(new String(buffer, from, to - from).strip());
  }

  /** Digits, a point, up to six digits: nearly every value there is. -1 for all else. */
  private static long quick(char[] buffer, int from, int to) {
    int length = to - from;
    if (length == 0 || length > 16) {
      return -1;
    }
    long value = 0;
    int decimals = -1;
    for (int i = from; i < to; i++) {
      char c = buffer[i];
      if (c >= '0' && c <= '9') {
        value = value * 10 + (c - '0');
        if (decimals >= 0) {
          decimals++;
        }
      } else if (c == '.' && decimals < 0 && i > from) {
        decimals = 0;
      } else {
        return -1;
      }
    }
    if (decimals > 6 || length > 11 + Math.max(decimals, 0)) {
      return -1;
    }
    for (int i = Math.max(decimals, 0); i < 6; i++) {
      value *= 10;
    }
    return value <= MAX_MICROS ? value : -1;
  }

  private static long slow(String text) {
    if (text.isEmpty() || text.length() > 40) {
      return TestResult.NO_DURATION;
    }
    Matcher clock = CLOCK.matcher(text);
    if (clock.matches()) {
      long hours = clock.group(1) == null ? 0 : Long.parseLong(clock.group(1));
      long minutes = Long.parseLong(clock.group(2));
      return bounded(
          new BigDecimal(clock.group(3)).add(BigDecimal.valueOf((hours * 60 + minutes) * 60)));
    }
    BigDecimal unit = BigDecimal.ONE;
    String number = text;
    if (number.endsWith("ms")) {
      unit = new BigDecimal("0.001");
      number = number.substring(0, number.length() - 2).strip();
    } else if (number.endsWith("s")) {
      number = number.substring(0, number.length() - 1).strip();
    }
    return toMicros(number, unit);
  }

  /**
   * A bare number of some unit in microseconds: {@code 1.25}, {@code 1,234.5}, {@code 0,25}.
   *
   * @param unit in seconds
   * @return {@link TestResult#NO_DURATION} when the text is no number, or negative
   */
  public static long toMicros(String number, BigDecimal unit) {
    String plain = withoutCommas(number);
    if (plain.length() > 40 || !NUMBER.matcher(plain).matches()) {
      return TestResult.NO_DURATION;
    }
    return bounded(new BigDecimal(plain.endsWith(".") ? plain + "0" : plain).multiply(unit));
  }

  /** Commas before a point, or several of them, part thousands; a single one is a decimal comma. */
  private static String withoutCommas(String number) {
    int first = number.indexOf(',');
    if (first < 0) {
      return number;
    }
    boolean thousands = number.indexOf('.') > first || number.indexOf(',', first + 1) > 0;
    return thousands ? number.replace(",", "") : number.replace(',', '.');
  }

  private static long bounded(BigDecimal seconds) {
    BigDecimal micros = seconds.movePointRight(6);
    return micros.compareTo(BigDecimal.valueOf(MAX_MICROS)) > 0
        ? TestResult.NO_DURATION
        : micros.setScale(0, java.math.RoundingMode.HALF_UP).longValueExact();
  }
}
