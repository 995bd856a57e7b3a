package org.vinecellar.core.triage.grouping;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What the errors of a group have in common, with a hole where they differ. */
public final class Template {
  private static final char HOLE = '#';
  private static final String HOLE_WORD = "#";

  /** Words, runs of blanks, and each other sign by itself: it backtracks nowhere. */
  private static final Pattern TOKEN = Pattern.compile("[\\p{L}\\p{M}\\p{N}_]+|\\s+|.");

  private static final int MOST_TOKENS = 400;

  /** Less in common than this says nothing of either. */
  private static final double LEAST = 0.5;

  private Template() {}

  /**
   * A template of both: the longest sequence of words that both have, with one hole for all
   * between. Where that is less than half of the first one's words, that one stays as it is.
   */
  public static String widened(String template, String other) {
    if (template.equals(other)) {
      return template;
    }
    List<String> one = tokens(template);
    List<String> two = tokens(other);
    if (one.size() > MOST_TOKENS || two.size() > MOST_TOKENS) {
      return template;
    }
    int[][] common = common(one, two);
    StringBuilder out = new StringBuilder();
    int kept = 0;
    int words = 0;
    for (String token : one) {
      words += isWord(token) ? 1 : 0;
    }
    int i = 0;
    int j = 0;
    while (i < one.size() && j < two.size()) {
      if (one.get(i).equals(two.get(j))) {
        kept += isWord(one.get(i)) ? 1 : 0;
        add(out, one.get(i));
        i++;
        j++;
      } else {
        add(out, HOLE_WORD);
        if (common[i + 1][j] >= common[i][j + 1]) {
          i++;
        } else {
          j++;
        }
      }
    }
    if (i < one.size() || j < two.size()) {
      add(out, HOLE_WORD);
    }
    return kept >= words * LEAST ? out.toString() : template;
  }

  /** How long the longest common sequence is, from each place of both on. */
  private static int[][] common(List<String> one, List<String> two) {
    int[][] common = new int[one.size() + 1][two.size() + 1];
    for (int i = one.size() - 1; i >= 0; i--) {
      for (int j = two.size() - 1; j >= 0; j--) {
        common[i][j] =
            one.get(i).equals(two.get(j))
                ? common[i + 1][j + 1] + 1
                : Math.max(common[i + 1][j], common[i][j + 1]);
      }
    }
    return common;
  }

  private static boolean isWord(String token) {
    return Character.isLetterOrDigit(token.codePointAt(0));
  }

  private static void add(StringBuilder out, String token) {
    boolean hole = token.equals(HOLE_WORD);
    if (!hole || out.length() == 0 || out.charAt(out.length() - 1) != HOLE) {
      out.append(token);
    }
  }

  private static List<String> tokens(String text) {
    List<String> tokens = new ArrayList<>();
    Matcher matcher = TOKEN.matcher(text);
    while (matcher.find() && tokens.size() <= MOST_TOKENS) {
      tokens.add(matcher.group());
    }
    return tokens;
  }

  /**
   * What stands in a text where a line of a template has holes, in their order. Quotes are plain
   * ones, as in templates.
   *
   * @return empty when the text does not have what is fixed
   */
  public static Optional<List<String>> values(String line, String printed) {
    String text = plain(printed);
    String[] fixed = line.split(HOLE_WORD, -1);
    if (!text.startsWith(fixed[0]) || !text.endsWith(fixed[fixed.length - 1])) {
      return Optional.empty();
    }
    List<String> values = new ArrayList<>();
    int from = fixed[0].length();
    for (int i = 1; i < fixed.length; i++) {
      boolean last = i == fixed.length - 1;
      int to = last ? text.length() - fixed[i].length() : text.indexOf(fixed[i], from);
      if (to < from) {
        return Optional.empty();
      }
      values.add(text.substring(from, to));
      from = to + fixed[i].length();
    }
    return Optional.of(values);
  }

  private static String plain(String text) {
    return text.replaceAll("[“”„]", "\"").replaceAll("[‘’‚]", "'");
  }
}
