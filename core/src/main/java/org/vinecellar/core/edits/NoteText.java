package org.vinecellar.core.edits;

import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Labels;

/**
 * What is written about a run or a test.
 *
 * @param description Markdown (CommonMark); null for none
 * @param labels all that hold, those that uploads told included
 * @param tags words, each once, in the order they were given
 */
public record NoteText(
    @Nullable String description, Map<String, String> labels, List<String> tags) {
  /** Nothing at all. */
  public static final NoteText EMPTY = new NoteText(null, Map.of(), List.of());

  private static final int MAX_DESCRIPTION = 20_000;
  private static final int MAX_TAGS = 50;
  private static final Pattern TAG = Pattern.compile("[^\\s\\p{Cntrl},]{1,100}");

  /**
   * Checks every value; a blank description is none.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the value and the rule
   */
  public NoteText {
    description = description == null || description.isBlank() ? null : description.strip();
    if (description != null && description.length() > MAX_DESCRIPTION) {
      throw invalid(
          "the description is longer than " + MAX_DESCRIPTION + " characters; shorten it");
    }
    if (description != null && description.indexOf('\0') >= 0) {
      throw invalid("the description holds a NUL character");
    }
    labels = Labels.checked(labels);
    tags = tags.stream().distinct().toList();
    if (tags.size() > MAX_TAGS) {
      throw invalid(tags.size() + " tags are too many; at most " + MAX_TAGS + " are taken");
    }
    for (String tag : tags) {
      // What comes from JSON may hold nulls, whatever its type says.
      String word = String.valueOf((Object) tag);
      if (tag == null || !TAG.matcher(word).matches()) {
        throw invalid(
            "the tag “"
                + (word.length() > 100 ? word.substring(0, 100) + "…" : word)
                + "” is not one word of at most 100 characters, without comma");
      }
    }
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
