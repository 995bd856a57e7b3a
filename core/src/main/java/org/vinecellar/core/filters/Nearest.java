package org.vinecellar.core.filters;

import java.util.Collection;
import java.util.Comparator;
import java.util.Locale;

/** Which of some words somebody may have meant. */
public final class Nearest {
  private Nearest() {}

  /** “; did you mean …?”, or nothing when no word is near. */
  public static String hint(String written, Collection<String> words) {
    String lower = written.toLowerCase(Locale.ROOT);
    int most = Math.max(1, Math.min(3, lower.length() / 2));
    if (lower.isEmpty() || lower.length() > 60) {
      return "";
    }
    return words.stream()
        .filter(word -> distance(lower, word.toLowerCase(Locale.ROOT)) <= most)
        .min(Comparator.comparingInt(word -> distance(lower, word.toLowerCase(Locale.ROOT))))
        .map(word -> "; did you mean “" + word + "”?")
        .orElse("");
  }

  /** Levenshtein's: letters that were added, left out or taken for others. */
  private static int distance(String a, String b) {
    int[] row = new int[b.length() + 1];
    for (int j = 0; j <= b.length(); j++) {
      row[j] = j;
    }
    for (int i = 1; i <= a.length(); i++) {
      int corner = row[0];
      row[0] = i;
      for (int j = 1; j <= b.length(); j++) {
        int replaced = corner + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
        corner = row[j];
        row[j] = Math.min(replaced, 1 + Math.min(row[j], row[j - 1]));
      }
    }
    return row[b.length()];
  }
}
