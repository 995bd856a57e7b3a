package org.vinecellar.core.phrases;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;

/**
 * Finds many phrases in one pass over a text, whatever their number (Aho and Corasick, "Efficient
 * string matching", 1975). Capitals do not matter. Immutable once built.
 */
public final class PhraseTable {
  /** Told of each phrase that a text holds. */
  public interface Found {
    /**
     * @param phrase its number, in the order in which phrases were given
     * @param end where it ends in the text
     */
    void at(int phrase, int end);
  }

  private static final int CHARS = 128;

  private final List<String> phrases;
  private final int[][] next;
  private final int[][] ends;

  private PhraseTable(List<String> phrases, int[][] next, int[][] ends) {
    this.phrases = phrases;
    this.next = next;
    this.ends = ends;
  }

  /**
   * @param phrases of ASCII characters; a blank at their ends asks for the beginning or end of a
   *     word
   */
  public static PhraseTable of(List<String> phrases) {
    List<int[]> next = new ArrayList<>();
    List<List<Integer>> ends = new ArrayList<>();
    state(next, ends);
    for (int p = 0; p < phrases.size(); p++) {
      int state = 0;
      for (char c : phrases.get(p).strip().toCharArray()) {
        char low = Character.toLowerCase(c);
        if (next.get(state)[low] < 0) {
          next.get(state)[low] = state(next, ends);
        }
        state = next.get(state)[low];
      }
      ends.get(state).add(p);
    }
    link(next, ends);
    int[][] all = next.toArray(new int[0][]);
    int[][] found =
        ends.stream().map(list -> list.stream().mapToInt(i -> i).toArray()).toArray(int[][]::new);
    return new PhraseTable(List.copyOf(phrases), all, found);
  }

  private static int state(List<int[]> next, List<List<Integer>> ends) {
    int[] row = new int[CHARS];
    Arrays.fill(row, -1);
    next.add(row);
    ends.add(new ArrayList<>());
    return next.size() - 1;
  }

  /**
   * Where to go on when a character does not fit: to the longest end that begins another phrase.
   */
  private static void link(List<int[]> next, List<List<Integer>> ends) {
    int[] fail = new int[next.size()];
    Deque<Integer> waiting = new ArrayDeque<>();
    for (int c = 0; c < CHARS; c++) {
      int to = next.get(0)[c];
      if (to < 0) {
        next.get(0)[c] = 0;
      } else {
        waiting.add(to);
      }
    }
    while (!waiting.isEmpty()) {
      int state = waiting.remove();
      ends.get(state).addAll(ends.get(fail[state]));
      for (int c = 0; c < CHARS; c++) {
        int to = next.get(state)[c];
        int other = next.get(fail[state])[c];
        if (to < 0) {
          next.get(state)[c] = other;
        } else {
          fail[to] = other;
          waiting.add(to);
        }
      }
    }
  }

  /** Tells of each phrase that stands in the text, as often as it does. */
  public void search(String text, Found found) {
    int state = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= 'A' && c <= 'Z') {
        c += 32;
      } else if (c >= CHARS) {
        state = 0;
        continue;
      }
      state = next[state][c];
      for (int phrase : ends[state]) {
        if (isWhole(text, i + 1, phrases.get(phrase))) {
          found.at(phrase, i + 1);
        }
      }
    }
  }

  private static boolean isWhole(String text, int end, String phrase) {
    int start = end - phrase.strip().length();
    boolean begins =
        phrase.charAt(0) != ' ' || start == 0 || !Character.isLetterOrDigit(text.charAt(start - 1));
    boolean ends =
        phrase.charAt(phrase.length() - 1) != ' '
            || end >= text.length()
            || !Character.isLetterOrDigit(text.charAt(end));
    return begins && ends;
  }
}
