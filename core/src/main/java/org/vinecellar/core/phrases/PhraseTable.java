package org.vinecellar.core.phrases;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
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

  /** The column of each character; characters in no phrase share one. */
  private final int[] columns = new int[CHARS];

  private final int width;

  /** For each state and column the next state; less than zero, and inverted, where phrases end. */
  private final int[] next;

  private final int[][] ends;
  private final int[] lengths;

  /** Phrases that ask for the beginning of a word, and for its end. */
  private final BitSet begins = new BitSet();

  private final BitSet wholes = new BitSet();

  private PhraseTable(List<String> phrases, List<int[]> next, int[][] ends) {
    this.ends = ends;
    this.lengths = phrases.stream().mapToInt(phrase -> phrase.strip().length()).toArray();
    int used = 1;
    for (int c = 0; c < CHARS; c++) {
      int at = c;
      if (next.stream().anyMatch(row -> row[at] != 0)) {
        columns[c] = used++;
      }
    }
    this.width = used;
    this.next = new int[next.size() * width];
    for (int state = 0; state < next.size(); state++) {
      for (int c = 0; c < CHARS; c++) {
        int to = next.get(state)[c];
        this.next[state * width + columns[c]] = ends[to].length == 0 ? to : ~to;
      }
    }
    for (int i = 0; i < phrases.size(); i++) {
      String phrase = phrases.get(i);
      begins.set(i, phrase.charAt(0) == ' ');
      wholes.set(i, phrase.charAt(phrase.length() - 1) == ' ');
    }
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
    int[][] found =
        ends.stream().map(list -> list.stream().mapToInt(i -> i).toArray()).toArray(int[][]::new);
    return new PhraseTable(phrases, next, found);
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
    int length = text.length();
    for (int i = 0; i < length; i++) {
      char c = text.charAt(i);
      if (c >= 'A' && c <= 'Z') {
        c += 32;
      } else if (c >= CHARS) {
        state = 0;
        continue;
      }
      state = next[state * width + columns[c]];
      if (state < 0) {
        state = ~state;
        for (int phrase : ends[state]) {
          if (isWhole(text, i + 1, phrase)) {
            found.at(phrase, i + 1);
          }
        }
      }
    }
  }

  /** Whether one of the phrases stands in the text. */
  public boolean isIn(String text) {
    boolean[] found = new boolean[1];
    search(text, (phrase, end) -> found[0] = true);
    return found[0];
  }

  /** Where phrases begin in the text. */
  public BitSet starts(String text) {
    BitSet starts = new BitSet();
    search(text, (phrase, end) -> starts.set(end - lengths[phrase]));
    return starts;
  }

  private boolean isWhole(String text, int end, int phrase) {
    int start = end - lengths[phrase];
    boolean begin =
        !begins.get(phrase) || start == 0 || !Character.isLetterOrDigit(text.charAt(start - 1));
    return begin
        && (!wholes.get(phrase)
            || end >= text.length()
            || !Character.isLetterOrDigit(text.charAt(end)));
  }
}
