package org.vinecellar.core.formats.csv;

import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Which column of a table holds what.
 *
 * @param headings the table's first row
 * @param places a column's place by our field; fields without are left out
 * @param unit of bare numbers among the durations; null when nothing tells it
 * @param missing headings that the sender names and the table does not have
 */
record CsvPlaces(
    List<String> headings,
    Map<String, Integer> places,
    @Nullable DurationUnit unit,
    List<String> missing) {
  /** At so many headings a message ends. */
  private static final int NAMED = 30;

  /** Why the table cannot be read; null when it can. */
  @Nullable String refusal() {
    if (!missing.isEmpty()) {
      return "has no column “" + String.join("”, “", missing) + "”; its columns are " + named();
    }
    if (!places.containsKey("test") || !places.containsKey("outcome")) {
      return "looks like a table, but which columns hold the test and its outcome is not known; name"
          + " them (--column test=HEADING --column outcome=HEADING); its columns are "
          + named();
    }
    return null;
  }

  /** Why a bare number among the durations cannot be read; null when it can. */
  @Nullable String refusal(String cell) {
    Integer durations = places.get("duration");
    if (unit != null || durations == null || !DurationUnit.isBare(cell)) {
      return null;
    }
    String heading = headings.get(durations).strip();
    return "does not tell whether “"
        + heading
        + "” "
        + cell
        + " is seconds or milliseconds; say --column 'duration s="
        + heading
        + "' or --column 'duration ms="
        + heading
        + "' (us, ns and min are known too), or name it so in its heading";
  }

  private String named() {
    List<String> some = headings.subList(0, Math.min(headings.size(), NAMED));
    return "“" + String.join("”, “", some) + "”" + (some.size() < headings.size() ? " …" : "");
  }
}
