package org.vinecellar.service.sheets;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Sheet.Unit;

/** What stands in a sheet, as people read it. */
public final class SheetWords {
  private static final Map<String, String> HEADS =
      Map.ofEntries(
          Map.entry("at", "From"),
          Map.entry("rate", "Pass rate"),
          Map.entry("change", "Change"),
          Map.entry("red", "Red runs"),
          Map.entry("tests", "Results"),
          Map.entry("different tests", "Tests"),
          Map.entry("spent", "Time of tests"),
          Map.entry("run median", "Half of runs in"),
          Map.entry("run p90", "9 of 10 runs in"),
          Map.entry("run p95", "19 of 20 runs in"),
          Map.entry("spent failing", "Spent on failures"),
          Map.entry("spent again", "Spent on retries"),
          Map.entry("median", "Half of them in"),
          Map.entry("mean", "In the mean"),
          Map.entry("p90", "9 of 10 in"),
          Map.entry("p95", "19 of 20 in"));

  private static final Pattern PACKAGE = Pattern.compile("^[\\w.]{1,1000}\\.(?=\\w{1,1000}$)");
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
  private static final int THOUSAND = 1_000;
  private static final int MINUTE = 60;
  private static final int HOUR = 3_600;
  private static final int DAY_LONG = 86_400;

  private SheetWords() {}

  /** The head of a column. */
  public static String head(Sheet.Column column) {
    if (!column.values().isEmpty()) {
      return column.values().stream()
          .map(value -> value == null ? "none" : value)
          .collect(Collectors.joining(" · "));
    }
    String head =
        HEADS.getOrDefault(
            column.key(),
            column.key().startsWith("label.")
                ? column.key().substring("label.".length())
                : column.key());
    return head.isEmpty()
        ? head
        : head.substring(0, 1).toUpperCase(Locale.ROOT) + head.substring(1);
  }

  /** A cell; never empty for a number that is not known. */
  public static String cell(Sheet.Column column, Sheet.Cell cell) {
    String text = cell.text();
    if (column.unit() == Unit.TIME) {
      return text == null ? "" : day(Instant.parse(text));
    }
    if (column.unit() == Unit.TEXT) {
      String words = text == null ? "" : text;
      // Of a class its own name; where it stands is the same for many.
      return column.key().equals("suite") ? PACKAGE.matcher(words).replaceFirst("") : words;
    }
    Double number = cell.number();
    if (number == null) {
      return column.key().equals("rate") && cell.link() != null ? "not known" : "–";
    }
    return switch (column.unit()) {
      case SHARE -> column.key().equals("change") ? points(number) : percent(number);
      case SECONDS -> length(number);
      default -> count(Math.round(number));
    };
  }

  /** A day of UTC. */
  public static String day(Instant moment) {
    return DAY.format(moment.atOffset(ZoneOffset.UTC));
  }

  /** With a thin space between thousands. */
  public static String count(long number) {
    return String.format(Locale.ROOT, "%,d", number).replace(',', '\u2009');
  }

  /** Never rounded to all or none where it is not. */
  public static String percent(double share) {
    if (share == 0 || share == 1) {
      return Math.round(share * 100) + " %";
    }
    long tenths = Math.min(999, Math.max(1, Math.round(share * THOUSAND)));
    return String.format(Locale.ROOT, "%.1f %%", tenths / 10.0);
  }

  private static String points(double share) {
    double points = share * 100;
    String sign = points > 0 ? "+" : points < 0 ? "−" : "±";
    return sign + String.format(Locale.ROOT, "%.1f", Math.abs(points));
  }

  /** A length of time, in two units at most. */
  public static String length(double seconds) {
    if (seconds == 0) {
      return "0 s";
    }
    if (seconds < 1) {
      return Math.round(seconds * THOUSAND) + " ms";
    }
    if (seconds < 10) {
      return String.format(Locale.ROOT, "%.1f s", seconds);
    }
    long whole = Math.round(seconds);
    if (whole < MINUTE) {
      return whole + " s";
    }
    if (whole < HOUR) {
      return two(whole / MINUTE, "min", whole % MINUTE, "s");
    }
    return whole < DAY_LONG
        ? two(whole / HOUR, "h", whole % HOUR / MINUTE, "min")
        : two(whole / DAY_LONG, "d", whole % DAY_LONG / HOUR, "h");
  }

  private static String two(long large, String unit, long small, String below) {
    return large + " " + unit + (small == 0 ? "" : " " + small + " " + below);
  }
}
