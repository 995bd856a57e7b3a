package org.vinecellar.core.triage.checks;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** What is said not to be there, with its kind beside its name, in the words of any store. */
final class GoneObjects {
  private static final String KIND =
      "(table|view|relation|collection|index|schema|database|sequence|procedure|topic|queue|exchange|bucket|stream)";

  /** In quotes, or written as no word of a sentence is. */
  private static final String NAME =
      ":? ?(?:[\"'`\\[]([\\w.$-]{2,100})[\"'`\\]]|([\\w$]+(?:[_.-][\\w$]+)+))";

  private static final Pattern BEFORE =
      Pattern.compile(
          "(?i)\\b(?:non-?existe(?:nt|ing)|unknown|missing|no such|undefined) "
              + KIND
              + "s?(?: named| with name)?"
              + NAME);

  private static final Pattern BEHIND =
      Pattern.compile(
          "(?i)\\b"
              + KIND
              + NAME
              + " (?:is |was |could |can|has )?(?:not (?:be )?(?:found|exist|known|available|present|declared|been)|does not exist|doesn't exist|missing\\b|unknown\\b|undefined\\b)");

  /** Of databases, which all call them otherwise. */
  private static final Set<String> OF_DATABASES =
      Set.of(
          "table", "view", "relation", "collection", "schema", "database", "sequence", "procedure");

  private GoneObjects() {}

  /**
   * @return what is wrong, and the name; null when nothing is said to be missing
   */
  static @Nullable String in(String text) {
    Matcher found = BEHIND.matcher(text);
    if (!found.find()) {
      found = BEFORE.matcher(text);
      if (!found.find()) {
        return null;
      }
    }
    String kind = found.group(1).toLowerCase(Locale.ROOT);
    String name = found.group(2) == null ? found.group(3) : found.group(2);
    return (OF_DATABASES.contains(kind) ? "missing " : "missing-" + kind + " ")
        + name.toLowerCase(Locale.ROOT);
  }
}
