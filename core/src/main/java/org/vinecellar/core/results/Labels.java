package org.vinecellar.core.results;

import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What a label may be: a key of letters, digits, '.', '_' and '-', and a short word. */
public final class Labels {
  private static final Pattern KEY = Pattern.compile("[\\p{L}\\p{N}._-]{1,60}");
  private static final int MOST = 50;
  private static final int LONGEST = 200;

  private Labels() {}

  /**
   * A copy of them.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the label and the rule
   */
  public static Map<String, String> checked(Map<String, String> labels) {
    if (labels.size() > MOST) {
      throw invalid(labels.size() + " labels are too many; at most " + MOST + " are taken");
    }
    labels.forEach((key, value) -> check("the label", key, value));
    return Map.copyOf(labels);
  }

  /**
   * Checks a key and its value.
   *
   * @param what it is, for the message
   * @throws CellarException {@code INVALID_VALUE}
   */
  static void check(String what, String key, @Nullable String value) {
    if (!KEY.matcher(key).matches()) {
      throw invalid(
          what
              + " “"
              + (key.length() > 100 ? key.substring(0, 100) + "…" : key)
              + "” is not a word of letters, digits, '.', '_' and '-' (write key=value)");
    }
    if (value == null || value.isBlank() || value.length() > LONGEST) {
      throw invalid(what + " " + key + " is empty or longer than " + LONGEST + " characters");
    }
    if (value.chars().anyMatch(c -> c < 0x20)) {
      throw invalid(what + " " + key + " holds a control character");
    }
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
