package org.vinecellar.core.triage.tickets;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * By which words a tracker is asked for entries like a failure group. Trackers differ in whether
 * they want all words of a text or one: they are asked for one after the other.
 */
public final class SearchWords {
  private static final Pattern BETWEEN = Pattern.compile("[^\\p{L}\\p{N}_$-]+");
  private static final Pattern NAME = Pattern.compile("\\p{Ll}\\p{Lu}|[_$-]\\p{L}");
  private static final int NAMES = 20;
  private static final int NAMED = 10;
  private static final int SHORTEST = 4;
  private static final int LONGEST = 60;

  private SearchWords() {}

  /**
   * Those that tell most first: names of programs, then long words; each once.
   *
   * @param named what the group is known by; its words come before others that tell as much
   */
  public static List<String> of(String named, String text, int most) {
    Map<String, String> words = new LinkedHashMap<>();
    Set<String> first = new HashSet<>();
    for (boolean isNamed : new boolean[] {true, false}) {
      String part = isNamed ? named : text;
      for (String raw : BETWEEN.split(part.length() > 4_000 ? part.substring(0, 4_000) : part)) {
        String word = raw.replaceAll("^-+|-+$", "");
        if (word.length() >= SHORTEST
            && word.length() <= LONGEST
            && word.chars().anyMatch(Character::isLetter)
            && !Ranking.isCommon(word)) {
          words.putIfAbsent(word.toLowerCase(Locale.ROOT), word);
          if (isNamed) {
            first.add(word);
          }
        }
      }
    }
    List<String> ordered = new ArrayList<>(words.values());
    // Stable: of two that tell as much, the one that stands first.
    ordered.sort(
        Comparator.comparingInt(
            (String word) -> -weight(word) - (first.contains(word) ? NAMED : 0)));
    return ordered.size() > most ? List.copyOf(ordered.subList(0, most)) : List.copyOf(ordered);
  }

  private static int weight(String word) {
    return Math.min(word.length(), NAMES) + (NAME.matcher(word).find() ? NAMES : 0);
  }
}
