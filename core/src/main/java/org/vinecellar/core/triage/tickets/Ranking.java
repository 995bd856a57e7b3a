package org.vinecellar.core.triage.tickets;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * How like entries of a tracker are to a failure group: the cosine of their words, each of which
 * counts the more the fewer of the entries have it (Salton and Buckley, "Term-weighting approaches
 * in automatic text retrieval", 1988). Words of a title count twice.
 */
public final class Ranking {
  private static final Pattern BETWEEN = Pattern.compile("[^\\p{L}\\p{N}_$]+");
  private static final Pattern HUMPS = Pattern.compile("(?<=\\p{Ll})(?=\\p{Lu})|_");
  private static final int SHORTEST = 3;
  private static final int TITLE = 2;
  private static final int REASONS = 6;

  /** Longer texts say no more of their subject. */
  private static final int LONGEST = 20_000;

  /** They stand in every report of a failure. */
  private static final Set<String> COMMON =
      Set.of(
          "the",
          "and",
          "for",
          "with",
          "was",
          "but",
          "not",
          "test",
          "tests",
          "error",
          "failed",
          "failure",
          "exception",
          "expected",
          "that",
          "this",
          "from",
          "when",
          "are",
          "has");

  private Ranking() {}

  /** Whether a word stands in every report of a failure. */
  static boolean isCommon(String word) {
    return COMMON.contains(word.toLowerCase(Locale.ROOT));
  }

  /**
   * An entry with what speaks for it.
   *
   * @param likeness from 0 for nothing in common to 1
   * @param words that both have, those that tell most first
   */
  public record Ranked(Entry entry, double likeness, List<String> words) {
    /** Copies the words. */
    public Ranked {
      words = List.copyOf(words);
    }
  }

  /**
   * The entries, the likest first; of those that are as like, open ones first.
   *
   * @param title what people call the group
   * @param text all else that is known of it
   */
  public static List<Ranked> of(String title, String text, List<Entry> entries) {
    Map<String, Double> group = words(title, text);
    List<Map<String, Double>> all = new ArrayList<>();
    Map<String, Integer> having = new HashMap<>();
    for (Entry entry : entries) {
      Map<String, Double> words = words(entry.title(), entry.text());
      all.add(words);
      words.keySet().forEach(word -> having.merge(word, 1, Integer::sum));
    }
    Map<String, Double> weighed = weighed(group, having, entries.size());
    List<Ranked> ranked = new ArrayList<>();
    for (int i = 0; i < entries.size(); i++) {
      ranked.add(ranked(entries.get(i), weighed(all.get(i), having, entries.size()), weighed));
    }
    ranked.sort(
        Comparator.comparingDouble(Ranked::likeness)
            .reversed()
            .thenComparing(one -> !one.entry().open())
            .thenComparing(one -> one.entry().key()));
    return ranked;
  }

  private static Ranked ranked(Entry entry, Map<String, Double> words, Map<String, Double> group) {
    double product = 0;
    Map<String, Double> shared = new LinkedHashMap<>();
    for (Map.Entry<String, Double> word : words.entrySet()) {
      Double other = group.get(word.getKey());
      if (other != null) {
        product += word.getValue() * other;
        shared.put(word.getKey(), word.getValue() * other);
      }
    }
    double lengths = length(words) * length(group);
    return new Ranked(
        entry,
        lengths == 0 ? 0 : Math.min(1, product / lengths),
        shared.entrySet().stream()
            .sorted(
                Map.Entry.<String, Double>comparingByValue()
                    .reversed()
                    .thenComparing(Map.Entry.comparingByKey()))
            .limit(REASONS)
            .map(Map.Entry::getKey)
            .toList());
  }

  private static double length(Map<String, Double> words) {
    return Math.sqrt(words.values().stream().mapToDouble(value -> value * value).sum());
  }

  private static Map<String, Double> weighed(
      Map<String, Double> words, Map<String, Integer> having, int entries) {
    Map<String, Double> weighed = new HashMap<>();
    words.forEach(
        (word, count) ->
            weighed.put(
                word,
                (1 + Math.log(count))
                    * (1 + Math.log((1.0 + entries) / (1 + having.getOrDefault(word, 0))))));
    return weighed;
  }

  /** Names of programs count as they stand, and by their parts. */
  private static Map<String, Double> words(String title, String text) {
    Map<String, Double> words = new HashMap<>();
    add(words, title, TITLE);
    add(words, text, 1);
    return words;
  }

  private static void add(Map<String, Double> words, String text, double weight) {
    String some = text.length() > LONGEST ? text.substring(0, LONGEST) : text;
    for (String word : BETWEEN.split(some)) {
      one(words, word, weight);
      String[] parts = HUMPS.split(word);
      if (parts.length > 1) {
        for (String part : parts) {
          one(words, part, weight);
        }
      }
    }
  }

  private static void one(Map<String, Double> words, String word, double weight) {
    String small = word.toLowerCase(Locale.ROOT);
    if (small.length() >= SHORTEST
        && !COMMON.contains(small)
        && !small.chars().allMatch(Character::isDigit)) {
      words.merge(small, weight, Double::sum);
    }
  }
}
