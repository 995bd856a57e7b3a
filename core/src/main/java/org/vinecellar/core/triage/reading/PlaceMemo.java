package org.vinecellar.core.triage.reading;

import java.util.Arrays;
import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;

/**
 * Places that were read before: the failures of a run print the same ones over and over, and mostly
 * in the same order. They are looked up where they stand in a text, without the number of the line,
 * which tells nothing. It remembers only so many, and begins anew when there are more: nothing but
 * the line itself decides what it names, so that one serves all runs. Thread-safe: what two write
 * at once, one has to read again.
 */
public final class PlaceMemo {
  private static final int MOST = 30_000;
  private static final int LONGEST = 400;
  private static final int SMALLEST = 1 << 8;
  private static final char[] FILE = "File \"".toCharArray();
  private static final char[] NUMBER = "\", line ".toCharArray();

  /** So many characters before the number go into the hash; all are compared. */
  private static final int TELLING = 40;

  /** So many of the slots from that of the hash on are looked at. */
  private static final int NEAR = 12;

  private static final class Entry {
    private final int hash;
    private final char[] start;
    private final char[] end;
    private final FrameReader.Read read;

    /** What followed it last; any thread's is as good. */
    private @Nullable Entry next;

    Entry(int hash, char[] start, char[] end, FrameReader.Read read) {
      this.hash = hash;
      this.start = start;
      this.end = end;
      this.read = read;
    }

    boolean is(char[] text, int from, int number, int afterNumber, int to) {
      return number - from == start.length
          && to - afterNumber == end.length
          && Arrays.equals(text, from, number, start, 0, start.length)
          && Arrays.equals(text, afterNumber, to, end, 0, end.length);
    }
  }

  /** Goes through the lines of one text. */
  final class Walk {
    private @Nullable Entry last;

    /**
     * A place that was read before.
     *
     * @return null for what was not
     */
    FrameReader.@Nullable Read known(char[] text, int from, int to) {
      int start = start(text, from, to);
      if (start < 0) {
        return null;
      }
      int number = number(text, start, to);
      int after = afterNumber(text, number, to);
      Entry before = last;
      Entry next = before == null ? null : before.next;
      if (next == null || !next.is(text, start, number, after, to)) {
        next = find(text, start, number, after, to);
        if (before != null && next != null) {
          before.next = next;
        }
      }
      last = next;
      return next == null ? null : next.read;
    }

    FrameReader.@Nullable Read read(String line, @Nullable String next) {
      char[] text = line.toCharArray();
      FrameReader.Read known = known(text, 0, text.length);
      if (known != null) {
        return known;
      }
      FrameReader.Read read = FrameReader.read(line, next);
      int start = read == null || read.two() ? -1 : start(text, 0, text.length);
      if (read != null && start >= 0) {
        last = keep(text, start, read);
      }
      return read;
    }
  }

  private volatile AtomicReferenceArray<@Nullable Entry> slots =
      new AtomicReferenceArray<>(SMALLEST);

  private int size;

  private @Nullable Entry find(char[] text, int start, int number, int after, int to) {
    int hash = hash(text, start, number, after, to);
    AtomicReferenceArray<@Nullable Entry> all = slots;
    for (int i = 0; i < NEAR; i++) {
      Entry entry = all.get((hash + i) & (all.length() - 1));
      if (entry == null) {
        return null;
      }
      if (entry.hash == hash && entry.is(text, start, number, after, to)) {
        return entry;
      }
    }
    return null;
  }

  private Entry keep(char[] text, int start, FrameReader.Read read) {
    int to = text.length;
    int number = number(text, start, to);
    int after = afterNumber(text, number, to);
    Entry entry =
        new Entry(
            hash(text, start, number, after, to),
            Arrays.copyOfRange(text, start, number),
            Arrays.copyOfRange(text, after, to),
            read);
    keep(entry);
    return entry;
  }

  private synchronized void keep(Entry entry) {
    if (size >= MOST) {
      slots = new AtomicReferenceArray<>(SMALLEST);
      size = 0;
    }
    if (size * 2 >= slots.length()) {
      AtomicReferenceArray<@Nullable Entry> old = slots;
      AtomicReferenceArray<@Nullable Entry> wider = new AtomicReferenceArray<>(old.length() * 4);
      size = 0;
      for (int i = 0; i < old.length(); i++) {
        Entry one = old.get(i);
        if (one != null) {
          put(wider, one);
        }
      }
      slots = wider;
    }
    put(slots, entry);
  }

  /** Where all that are near are taken, it is not kept. */
  private void put(AtomicReferenceArray<@Nullable Entry> all, Entry entry) {
    for (int i = 0; i < NEAR; i++) {
      int slot = (entry.hash + i) & (all.length() - 1);
      if (all.get(slot) == null) {
        all.set(slot, entry);
        size++;
        return;
      }
    }
  }

  /** Where a place as the JVM and Python print it begins; less than zero for other lines. */
  private static int start(char[] text, int from, int to) {
    if (to - from < 10 || to - from > LONGEST) {
      return -1;
    }
    int start = from;
    while (start < to - 9 && text[start] <= ' ') {
      start++;
    }
    char first = text[start];
    boolean jvm =
        first == 'a' && text[to - 1] == ')' && text[start + 1] == 't' && text[start + 2] == ' ';
    boolean python =
        first == 'F' && Arrays.equals(text, start, start + FILE.length, FILE, 0, FILE.length);
    return jvm || python && ofPython(text, start, to) > 0 ? start : -1;
  }

  /** Where the number of the line stands. */
  private static int number(char[] text, int start, int to) {
    if (text[start] == 'F') {
      return ofPython(text, start, to);
    }
    int digits = to - 1;
    while (digits > start && isDigit(text[digits - 1])) {
      digits--;
    }
    return digits < to - 1 && text[digits - 1] == ':' ? digits : to;
  }

  /** Where its number stands in a line as Python prints it; no more than the line is looked at. */
  private static int ofPython(char[] text, int start, int to) {
    int last = to - NUMBER.length;
    for (int i = start; i <= last; i++) {
      if (text[i] == '"' && Arrays.equals(text, i, i + NUMBER.length, NUMBER, 0, NUMBER.length)) {
        return i + NUMBER.length;
      }
    }
    return -1;
  }

  private static int afterNumber(char[] text, int number, int to) {
    int end = number;
    while (end < to && isDigit(text[end])) {
      end++;
    }
    return end;
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  private static int hash(char[] text, int start, int number, int after, int to) {
    int hash = number - start;
    for (int i = Math.max(start, number - TELLING); i < number; i++) {
      hash = hash * 31 + text[i];
    }
    for (int i = after; i < to; i++) {
      hash = hash * 31 + text[i];
    }
    return hash ^ (hash >>> 15);
  }
}
