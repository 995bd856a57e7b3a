package org.vinecellar.core.runs;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Where a page of results over all runs ended.
 *
 * @param started when that run started
 * @param run that was looked into last
 * @param in where in it; null when all of it was looked through
 */
public record FindCursor(Instant started, long run, @Nullable ResultCursor in) {
  private static final Pattern WORD =
      Pattern.compile("(-?[0-9]{1,18})\\.([0-9]{1,18})(?:\\.([fo].{1,20}))?");

  /** As one opaque word. */
  public String encode() {
    String word = ChronoUnit.MICROS.between(Instant.EPOCH, started) + "." + run;
    return in == null ? word : word + "." + in.encode();
  }

  /** Reads what {@link #encode} wrote; empty for anything else. */
  public static Optional<FindCursor> decode(String text) {
    Matcher word = WORD.matcher(text);
    if (!word.matches()) {
      return Optional.empty();
    }
    Optional<ResultCursor> in = Optional.ofNullable(word.group(3)).flatMap(ResultCursor::decode);
    if (word.group(3) != null && in.isEmpty()) {
      return Optional.empty();
    }
    return Optional.of(
        new FindCursor(
            Instant.EPOCH.plus(Long.parseLong(word.group(1)), ChronoUnit.MICROS),
            Long.parseLong(word.group(2)),
            in.orElse(null)));
  }
}
