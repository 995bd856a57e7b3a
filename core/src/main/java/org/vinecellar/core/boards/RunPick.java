package org.vinecellar.core.boards;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.JsonText;

/**
 * The filter of runs that picks just those which a sum was made of, so that whoever follows a
 * number finds as many.
 */
public final class RunPick {
  /** Other keys cannot stand after a dot. */
  private static final Pattern PLAIN = Pattern.compile("[A-Za-z][A-Za-z0-9_-]*");

  private RunPick() {}

  /**
   * As it is written in a list of runs.
   *
   * @param filter that the sums were made with; null or blank for all runs
   * @param by the values of the dimensions, one each
   */
  public static String of(
      @Nullable String filter,
      Period period,
      List<Dimension> dimensions,
      List<@Nullable String> by) {
    List<String> all = new ArrayList<>();
    if (filter != null && !filter.isBlank()) {
      all.add("(" + filter.strip() + ")");
    }
    for (int i = 0; i < dimensions.size(); i++) {
      all.add(one(dimensions.get(i), by.get(i)));
    }
    all.add("started ge " + JsonText.quoted(period.from().toString()));
    all.add("started lt " + JsonText.quoted(period.to().toString()));
    return String.join(" and ", all);
  }

  private static String one(Dimension dimension, @Nullable String value) {
    String key = dimension.key();
    if (key == null) {
      return dimension.word() + " eq " + (value == null ? "null" : JsonText.quoted(value));
    }
    String quoted = JsonText.quoted(key);
    if (value == null) {
      return "not (label[key eq " + quoted + "])";
    }
    return PLAIN.matcher(key).matches()
        ? "label." + key + " eq " + JsonText.quoted(value)
        : "label[key eq " + quoted + " and value eq " + JsonText.quoted(value) + "]";
  }
}
