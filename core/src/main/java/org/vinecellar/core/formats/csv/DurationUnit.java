package org.vinecellar.core.formats.csv;

import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.results.TestResult;

/** What the numbers of a table's durations count. A bare number by itself could be any of them. */
enum DurationUnit {
  SECONDS("s", "1", "s", "sec", "secs", "second", "seconds"),
  MILLISECONDS("ms", "0.001", "ms", "msec", "msecs", "millis", "millisecond", "milliseconds"),
  MICROSECONDS("us", "0.000001", "us", "µs", "μs", "micros", "microsecond", "microseconds"),
  NANOSECONDS("ns", "0.000000001", "ns", "nanos", "nanosecond", "nanoseconds"),
  MINUTES("min", "60", "min", "mins", "minute", "minutes");

  /** Words of headings that are durations. */
  private static final List<String> USUAL =
      List.of("duration", "time", "elapsed", "runtime", "run time", "execution time", "took");

  /** Units that are headings of durations by themselves; {@code min} may be the least. */
  private static final Set<String> ALONE = Set.of("ms", "seconds", "milliseconds");

  private final String word;
  private final BigDecimal seconds;
  private final List<String> spellings;

  DurationUnit(String word, String seconds, String... spellings) {
    this.word = word;
    this.seconds = new BigDecimal(seconds);
    this.spellings = List.of(spellings);
  }

  /** As it stands behind the field in a sender's word: {@code duration ms}. */
  String word() {
    return word;
  }

  /** A heading's last word when it is a unit: {@code Duration (ms)}, {@code elapsedMillis}. */
  static @Nullable DurationUnit inHeading(String heading) {
    List<String> words = words(heading);
    return words.isEmpty() ? null : spelled(words.get(words.size() - 1));
  }

  /** Whether a heading is that of durations, with or without a unit. */
  static boolean isHeading(String heading) {
    List<String> words = words(heading);
    if (words.isEmpty()) {
      return false;
    }
    List<String> rest = inHeading(heading) == null ? words : words.subList(0, words.size() - 1);
    return rest.isEmpty()
        ? ALONE.contains(words.get(0))
        : USUAL.contains(String.join(" ", rest).replaceFirst(" in$", ""));
  }

  private static List<String> words(String heading) {
    String parted = heading.strip().replaceAll("(\\p{Ll})(\\p{Lu})", "$1 $2");
    return Arrays.stream(parted.toLowerCase(Locale.ROOT).split("[^\\p{L}]+"))
        .filter(word -> !word.isEmpty())
        .toList();
  }

  private static @Nullable DurationUnit spelled(String word) {
    for (DurationUnit unit : values()) {
      if (unit.spellings.contains(word)) {
        return unit;
      }
    }
    return null;
  }

  /** Whether a cell is a number that only its column can give a meaning. */
  static boolean isBare(String cell) {
    return cell.indexOf(':') < 0 && Seconds.toMicros(cell, BigDecimal.ONE) > 0;
  }

  /**
   * A cell's microseconds. What the cell says itself ({@code 12 ms}, {@code 01:02:03}) counts, then
   * the column's unit.
   *
   * @param unit of the column; null when nothing tells it, which leaves bare numbers without
   *     meaning
   * @return {@link TestResult#NO_DURATION} for what is none
   */
  static long micros(String cell, @Nullable DurationUnit unit) {
    if (cell.indexOf(':') >= 0) {
      return Seconds.toMicros(cell);
    }
    int end = cell.length();
    while (end > 0 && Character.isLetter(cell.charAt(end - 1))) {
      end--;
    }
    String said = cell.substring(end).toLowerCase(Locale.ROOT);
    DurationUnit own = said.isEmpty() ? unit : spelled(said);
    String number = cell.substring(0, end).strip();
    long bare = Seconds.toMicros(number, own == null ? BigDecimal.ONE : own.seconds);
    return own != null || bare == 0 ? bare : TestResult.NO_DURATION;
  }
}
