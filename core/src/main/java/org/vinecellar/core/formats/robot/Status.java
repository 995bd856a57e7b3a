package org.vinecellar.core.formats.robot;

import java.math.BigDecimal;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.TestResult;

/**
 * What a {@code status} element says.
 *
 * @param word PASS, FAIL, SKIP or NOT RUN; empty when there is none
 * @param micros {@link TestResult#NO_DURATION} when it tells no times
 * @param message null when there is none
 */
record Status(String word, @Nullable Instant started, long micros, @Nullable String message) {
  /** Nothing was said. */
  static final Status NONE = new Status("", null, TestResult.NO_DURATION, null);

  /** The present element, read to its end. */
  static Status read(TextReader texts) throws javax.xml.stream.XMLStreamException {
    String word = texts.name("status");
    Instant started = time(first(texts.name("start"), texts.name("starttime")));
    Instant ended = time(texts.name("endtime"));
    String elapsed = texts.name("elapsed");
    long micros = TestResult.NO_DURATION;
    if (elapsed != null) {
      micros = Seconds.toMicros(elapsed, BigDecimal.ONE);
    } else if (started != null && ended != null && !ended.isBefore(started)) {
      micros = ChronoUnit.MICROS.between(started, ended);
    }
    String message = texts.text();
    return new Status(
        word == null ? "" : word, started, micros, message == null ? null : plain(message));
  }

  private static @Nullable String first(@Nullable String one, @Nullable String other) {
    return one == null ? other : one;
  }

  /** A message that is marked as HTML is shown as it is written. */
  private static String plain(String message) {
    return message.startsWith("*HTML*") ? message.substring(6).strip() : message;
  }

  /** {@code 20261126 20:58:08.271}, or ISO 8601; no zone is told. */
  static @Nullable Instant time(@Nullable String text) {
    if (text == null) {
      return null;
    }
    boolean old = text.length() > 9 && text.charAt(8) == ' ';
    return Timestamps.parse(
        old
            ? text.substring(0, 4)
                + "-"
                + text.substring(4, 6)
                + "-"
                + text.substring(6, 8)
                + "T"
                + text.substring(9)
            : text);
  }

  boolean isFail() {
    return word.equals("FAIL");
  }
}
