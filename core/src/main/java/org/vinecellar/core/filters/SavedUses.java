package org.vinecellar.core.filters;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** Which saved filters a filter names. */
public final class SavedUses {
  private SavedUses() {}

  /** The names that stand behind a word; of a text that cannot be read, none. */
  public static Set<String> in(String text, String word) {
    return uses(text, word).stream().map(SavedUses::name).collect(Collectors.toSet());
  }

  private static List<Filter.Compared> uses(String text, String word) {
    if (text.isBlank()) {
      return List.of();
    }
    try {
      return FilterParser.parse(text)
          .comparisons()
          .filter(Filter.Compared.class::isInstance)
          .map(Filter.Compared.class::cast)
          .filter(
              one ->
                  Saved.isMeant(one.path())
                      && one.path().name().toLowerCase(Locale.ROOT).equals(word)
                      && one.value() instanceof Filter.Text)
          .toList();
    } catch (FilterException e) {
      return List.of();
    }
  }

  private static String name(Filter.Compared use) {
    return ((Filter.Text) use.value()).value();
  }

  /**
   * A filter that names another one where it named one. All else stays as it was written.
   *
   * @param word behind which it stands
   * @param nextWord behind which the other stands
   */
  public static String renamed(
      String text, String word, String name, String nextWord, String next) {
    StringBuilder changed = new StringBuilder(text);
    List<Filter.Compared> uses = uses(text, word);
    for (int i = uses.size() - 1; i >= 0; i--) {
      Filter.Compared use = uses.get(i);
      if (name(use).equals(name)) {
        int value = use.marks().value();
        int end = value + new Tokens(text.substring(value)).end();
        changed.replace(value, end, JsonText.quoted(next));
        int at = use.path().at();
        changed.replace(at, at + use.path().name().length(), nextWord);
      }
    }
    return changed.toString();
  }
}
