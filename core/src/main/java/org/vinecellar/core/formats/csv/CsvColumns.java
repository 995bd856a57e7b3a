package org.vinecellar.core.formats.csv;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
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
          Map.entry("outcome", List.of("outcome", "result", "status", "state", "verdict")),
          Map.entry("suite", List.of("suite", "class", "classname", "group", "module")),
          Map.entry("parameters", List.of("parameters", "params")),
          Map.entry("duration", List.of("duration", "time", "seconds", "elapsed")),
          Map.entry("duration ms", List.of("duration ms", "duration_ms", "ms", "milliseconds")),
          Map.entry("started", List.of("started", "start", "timestamp", "date")),
          Map.entry("message", List.of("message", "error", "reason", "comment")),
          Map.entry("trace", List.of("trace", "stack", "stacktrace", "stack trace", "details")),
          Map.entry("type", List.of("type", "error type", "exception")),
          Map.entry("output", List.of("output", "stdout", "log")),
          Map.entry("file", List.of("file", "source")),
          Map.entry("line", List.of("line")),
          Map.entry("tags", List.of("tags", "labels", "categories")));

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
      if (equals < 1 || word.length() == equals + 1 || !USUAL.containsKey(field)) {
        List<String> fields = new ArrayList<>(USUAL.keySet());
        fields.sort(null);
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "the column “"
                + word
                + "” is not of the form FIELD=HEADING with one of the fields "
                + String.join(", ", fields));
      }
      headings.put(field, word.substring(equals + 1).strip());
    }
    return headings.isEmpty() ? NONE : new CsvColumns(headings);
  }

  /**
   * The place of each field's column in a table with these headings; fields without are left out.
   */
  Map<String, Integer> places(List<String> row) {
    Map<String, Integer> places = new HashMap<>();
    USUAL.forEach(
        (field, usual) -> {
          String told = headings.get(field);
          List<String> wanted = told == null ? usual : List.of(told);
          for (String heading : wanted) {
            for (int i = 0; i < row.size() && !places.containsKey(field); i++) {
              if (plain(row.get(i)).equals(plain(heading))) {
                places.put(field, i);
              }
            }
          }
        });
    return places;
  }

  private static String plain(String heading) {
    return heading.strip().toLowerCase(Locale.ROOT);
  }
}
