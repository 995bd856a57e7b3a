package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.Period;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** Reads a value as its attribute's kind wants it. */
final class Operands {
  private static final int FIRST_YEAR = 1;
  private static final int LAST_YEAR = 9999;

  private final Attribute attribute;
  private final int at;
  private final Instant now;

  /**
   * @param at where the value stands
   */
  Operands(Attribute attribute, int at, Instant now) {
    this.attribute = attribute;
    this.at = at;
    this.now = now;
  }

  Criterion.Operand of(Filter.Value value) {
    return switch (attribute.kind()) {
      case TEXT, NAME -> new Criterion.Words(text(value));
      case CHOICE -> choice(text(value));
      case NUMBER -> new Criterion.Amount(number(value));
      case SECONDS ->
          new Criterion.Amount(
              value instanceof Filter.Text text ? seconds(text.value()) : number(value));
      case TIME -> new Criterion.Moment(time(text(value)));
      case FLAG -> flag(value);
    };
  }

  private String text(Filter.Value value) {
    if (value instanceof Filter.Text text) {
      if (text.value().indexOf(0) >= 0) {
        throw new FilterException(at, "no text holds a NUL character");
      }
      if (!StandardCharsets.UTF_8.newEncoder().canEncode(text.value())) {
        throw new FilterException(at, "half of a character stands in the text (a lone surrogate)");
      }
      return text.value();
    }
    throw wanted("in quotes, as in " + attribute.kind().example());
  }

  private Criterion.Operand choice(String word) {
    for (String choice : attribute.choices()) {
      if (choice.equalsIgnoreCase(word)) {
        return new Criterion.Words(choice);
      }
    }
    String hint = Nearest.hint(word, attribute.choices());
    throw new FilterException(
        at,
        "“"
            + attribute.word()
            + "” is never “"
            + shortened(word)
            + "”"
            + (hint.isEmpty()
                ? "; it is one of: " + String.join(", ", attribute.choices())
                : hint));
  }

  private BigDecimal number(Filter.Value value) {
    if (value instanceof Filter.Number number) {
      return number.value();
    }
    throw wanted("without quotes, as in " + attribute.kind().example());
  }

  private BigDecimal seconds(String text) {
    try {
      Duration length = Duration.parse(text);
      return BigDecimal.valueOf(length.getSeconds()).add(BigDecimal.valueOf(length.getNano(), 9));
    } catch (DateTimeException e) {
      throw wanted("in seconds, as in 2.5, or as ISO 8601 writes it, as in \"PT2.5S\"");
    }
  }

  private Criterion.Operand flag(Filter.Value value) {
    if (value instanceof Filter.Bool bool) {
      return new Criterion.Flag(bool.value());
    }
    throw wanted("true or false");
  }

  private Instant time(String text) {
    try {
      Instant time = back(text);
      if (time == null) {
        time =
            text.length() == 10
                ? LocalDate.parse(text).atStartOfDay().toInstant(ZoneOffset.UTC)
                : OffsetDateTime.parse(text).toInstant();
      }
      int year = time.atOffset(ZoneOffset.UTC).getYear();
      if (year >= FIRST_YEAR && year <= LAST_YEAR) {
        return time.truncatedTo(ChronoUnit.MICROS);
      }
    } catch (DateTimeException | ArithmeticException e) {
      // What could stand there is said below.
    }
    throw wanted(
        "an instant, as in \"2026-11-03T02:00:00Z\", a day, as in \"2026-11-03\", or a duration"
            + " back from now, as in \"-P7D\" or \"-PT12H\"");
  }

  /** Null when it is no duration back from now. */
  private @Nullable Instant back(String text) {
    if (!text.startsWith("-P") && !text.startsWith("P")) {
      return null;
    }
    ZonedDateTime from = now.atZone(ZoneOffset.UTC);
    int clock = text.indexOf('T');
    String days = clock < 0 ? text : text.substring(0, clock);
    if (days.endsWith("P")) {
      return from.plus(Duration.parse(text)).toInstant();
    }
    ZonedDateTime day = from.plus(Period.parse(days));
    if (clock < 0) {
      return day.toInstant();
    }
    String sign = text.startsWith("-") ? "-P" : "P";
    return day.plus(Duration.parse(sign + text.substring(clock))).toInstant();
  }

  private FilterException wanted(String what) {
    return new FilterException(
        at,
        "“"
            + attribute.word()
            + "” is a "
            + attribute.kind().word()
            + ", which is written "
            + what);
  }

  private static String shortened(String word) {
    return word.length() > 40 ? word.substring(0, 40) + "…" : word;
  }
}
