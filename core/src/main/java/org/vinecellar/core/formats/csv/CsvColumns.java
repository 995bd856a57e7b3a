package org.vinecellar.core.formats.csv;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * Which column holds what. Without a word from the sender a column is known by its heading.
 *
 * @param headings of the sender's columns by our field, e.g. {@code test} → {@code Titel}
 */
public record CsvColumns(Map<String, String> headings) {
  /** Nothing said: only the usual headings are known. */
  public static final CsvColumns NONE = new CsvColumns(Map.of());

  /** Our fields, each with the headings that are known for it. */
  private static final Map<String, List<String>> USUAL =
      Map.ofEntries(
          Map.entry("test", List.of("test", "name", "test name", "testcase", "test case", "case")),
          Map.entry(
              "outcome", List.of("outcome", "result", "status", "state", "verdict", "success")),
          Map.entry("suite", List.of("suite", "class", "classname", "group", "module")),
          Map.entry("parameters", List.of("parameters", "params")),
          Map.entry("started", List.of("started", "start", "timestamp", "date")),
          Map.entry("message", List.of("message", "error", "reason", "comment")),
          Map.entry("trace", List.of("trace", "stack", "stacktrace", "stack trace", "details")),
          Map.entry("type", List.of("type", "error type", "exception")),
          Map.entry("output", List.of("output", "stdout", "log")),
          Map.entry("file", List.of("file", "source")),
          Map.entry("line", List.of("line")),
          Map.entry("tags", List.of("tags", "labels", "categories")));

  /** The field of durations whose unit its heading or its cells tell. */
  private static final String DURATION = "duration";

  /** Copies the map. */
  public CsvColumns {
    headings = Map.copyOf(headings);
  }

  /**
   * Columns from words like {@code test=Titel}.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the word and the fields there are
   */
  public static CsvColumns of(List<String> words) {
    Map<String, String> headings = new HashMap<>();
    for (String word : words) {
      int equals = word.indexOf('=');
      String field = equals < 0 ? word : word.substring(0, equals).strip();
      if (equals < 1 || word.length() == equals + 1 || !fields().contains(field)) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "the column “"
                + word
                + "” is not of the form FIELD=HEADING with one of the fields "
                + String.join(", ", fields()));
      }
      headings.put(field, word.substring(equals + 1).strip());
    }
    if (headings.keySet().stream().filter(field -> field.startsWith(DURATION)).count() > 1) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the columns name durations twice; one column has one unit");
    }
    return headings.isEmpty() ? NONE : new CsvColumns(headings);
  }

  /** All that a column can be said to hold, in order. */
  private static Set<String> fields() {
    Set<String> fields = new TreeSet<>(USUAL.keySet());
    fields.add(DURATION);
    for (DurationUnit unit : DurationUnit.values()) {
      fields.add(DURATION + " " + unit.word());
    }
    return fields;
  }

  /** Which column of a table with these headings is which. */
  CsvPlaces places(List<String> row) {
    Map<String, Integer> places = new HashMap<>();
    List<String> missing = new ArrayList<>();
    headings.forEach(
        (field, heading) -> {
          int place = place(row, heading);
          if (place < 0) {
            missing.add(heading);
          } else {
            places.put(field.startsWith(DURATION) ? DURATION : field, place);
          }
        });
    USUAL.forEach(
        (field, usual) -> {
          for (String heading : headings.containsKey(field) ? List.<String>of() : usual) {
            int place = place(row, heading);
            if (place >= 0) {
              places.putIfAbsent(field, place);
            }
          }
        });
    DurationUnit unit = null;
    for (DurationUnit told : DurationUnit.values()) {
      unit = headings.containsKey(DURATION + " " + told.word()) ? told : unit;
    }
    boolean told = headings.keySet().stream().anyMatch(field -> field.startsWith(DURATION));
    for (int i = 0; i < row.size() && !told && !places.containsKey(DURATION); i++) {
      if (DurationUnit.isHeading(row.get(i)) && !places.containsValue(i)) {
        places.put(DURATION, i);
      }
    }
    Integer durations = places.get(DURATION);
    if (unit == null && durations != null) {
      unit = DurationUnit.inHeading(row.get(durations));
    }
    missing.sort(null);
    return new CsvPlaces(row, places, unit, missing);
  }

  /** The first column of this heading; -1 for none. */
  private static int place(List<String> row, String heading) {
    for (int i = 0; i < row.size(); i++) {
      if (plain(row.get(i)).equals(plain(heading))) {
        return i;
      }
    }
    return -1;
  }

  private static String plain(String heading) {
    return heading.strip().toLowerCase(Locale.ROOT);
  }
}
