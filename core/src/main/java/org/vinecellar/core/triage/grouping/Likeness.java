package org.vinecellar.core.triage.grouping;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * How alike two errors are by their words, and an index to find those that are: the smallest hashes
 * of a set of words are the same for like sets (Broder, "On the resemblance and containment of
 * documents", 1997), taken in bands (Indyk and Motwani, 1998).
 */
public final class Likeness {
  /** From here on, two errors of different tests are taken for one. */
  public static final double BAR = 0.75;

  /** From here on, two errors of one test are taken for one. */
  public static final double BAR_IN_TEST = 0.7;

  /** Fewer words say too little. */
  static final int LEAST_WORDS = 3;

  private static final int BANDS = 6;
  private static final int ROWS = 2;

  private Likeness() {}

  /**
   * Jaccard's index: the words that both have, of all that one of them has; 0 for two empty sets,
   * and where each has a name of a program that the other has not.
   */
  public static double of(Collection<String> one, Collection<String> other) {
    if (one.isEmpty() && other.isEmpty()) {
      return 0;
    }
    if (!haveNamesInCommon(one, other)) {
      return 0;
    }
    Set<String> both = new HashSet<>(one);
    both.retainAll(new HashSet<>(other));
    Set<String> all = new HashSet<>(one);
    all.addAll(other);
    return (double) both.size() / all.size();
  }

  /**
   * Words that both have, in the order of the first, without the marks of names; so many at most.
   */
  public static List<String> common(Collection<String> one, Collection<String> other, int most) {
    Set<String> others = new HashSet<>(other);
    return one.stream()
        .filter(others::contains)
        .distinct()
        .limit(most)
        .map(word -> word.replace("`", ""))
        .toList();
  }

  /**
   * Whether the names of programs in one are among those of the other: what is said around names is
   * mostly the same, and it is the name that tells.
   */
  private static boolean haveNamesInCommon(Collection<String> one, Collection<String> other) {
    Set<String> left = names(one);
    Set<String> right = names(other);
    return left.containsAll(right) || right.containsAll(left);
  }

  private static Set<String> names(Collection<String> words) {
    Set<String> names = new HashSet<>();
    for (String word : words) {
      if (word.charAt(0) == '`') {
        names.add(word);
      }
    }
    return names;
  }

  /** Under these numbers the words are found by others like them; none when they are too few. */
  public static List<Long> bands(Collection<String> words) {
    if (words.size() < LEAST_WORDS) {
      return List.of();
    }
    long[] least = new long[BANDS * ROWS];
    java.util.Arrays.fill(least, Long.MAX_VALUE);
    for (String word : words) {
      long hash = hash(word);
      for (int i = 0; i < least.length; i++) {
        least[i] = Math.min(least[i], mixed(hash + i * 0x9E3779B97F4A7C15L));
      }
    }
    List<Long> bands = new ArrayList<>(BANDS);
    for (int band = 0; band < BANDS; band++) {
      long value = band;
      for (int row = 0; row < ROWS; row++) {
        value = mixed(value * 31 + least[band * ROWS + row]);
      }
      bands.add(value);
    }
    return bands;
  }

  /** FNV-1a, 64 bits. */
  private static long hash(String word) {
    long hash = 0xcbf29ce484222325L;
    for (int i = 0; i < word.length(); i++) {
      hash = (hash ^ word.charAt(i)) * 0x100000001b3L;
    }
    return hash;
  }

  /** The finalizer of SplitMix64 (Steele, Lea, Flood 2014). */
  private static long mixed(long value) {
    long z = value;
    z = (z ^ (z >>> 30)) * 0xbf58476d1ce4e5b9L;
    z = (z ^ (z >>> 27)) * 0x94d049bb133111ebL;
    return z ^ (z >>> 31);
  }
}
