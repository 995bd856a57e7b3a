package org.vinecellar.core.triage.reading;

import java.util.concurrent.atomic.AtomicReferenceArray;
import org.jspecify.annotations.Nullable;

/**
 * Places that were read before: the failures of a run print the same ones over and over. They are
 * looked up where they stand in a text, without the number of the line, which tells nothing. It
 * remembers only so many. Thread-safe: what two write at once, one has to read again.
 */
public final class PlaceMemo {
  private static final int MOST = 50_000;
  private static final int LONGEST = 400;
  private static final int SMALLEST = 1 << 8;
  private static final String NUMBER = "\", line ";

  /** So many characters before the number go into the hash; all are compared. */
  private static final int TELLING = 40;

  /** So many of the slots from that of the hash on are looked at. */
  private static final int NEAR = 12;

  private record Entry(int hash, String start, String end, FrameReader.Read read) {
    boolean is(String text, int from, int number, int afterNumber, int to) {
      return number - from == start.length()
          && to - afterNumber == end.length()
          && text.startsWith(start, from)
          && text.startsWith(end, afterNumber);
    }
  }

  private volatile AtomicReferenceArray<@Nullable Entry> slots =
      new AtomicReferenceArray<>(SMALLEST);

  private int size;

  /**
   * A place that was read before.
   *
   * @return null for what was not
   */
  FrameReader.@Nullable Read known(String text, int from, int to) {
    int start = start(text, from, to);
    if (start < 0) {
      return null;
    }
    int number = number(text, start, to);
    int after = afterNumber(text, number, to);
    int hash = hash(text, start, number, after, to);
    AtomicReferenceArray<@Nullable Entry> all = slots;
    for (int i = 0; i < NEAR; i++) {
      Entry entry = all.get((hash + i) & (all.length() - 1));
      if (entry == null) {
        return null;
      }
      if (entry.hash == hash && entry.is(text, start, number, after, to)) {
        return entry.read;
      }
    }
    return null;
  }

  FrameReader.@Nullable Read read(String line, @Nullable String next) {
    FrameReader.Read known = known(line, 0, line.length());
    if (known != null) {
      return known;
    }
    FrameReader.Read read = FrameReader.read(line, next);
    int start = read == null || read.two() ? -1 : start(line, 0, line.length());
    if (read != null && start >= 0) {
      int to = line.length();
      int number = number(line, start, to);
      int after = afterNumber(line, number, to);
      keep(
          new Entry(
              hash(line, start, number, after, to),
              line.substring(start, number),
              line.substring(after),
              read));
    }
    return read;
  }

  private synchronized void keep(Entry entry) {
    if (size >= MOST) {
      return;
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
  private static int start(String text, int from, int to) {
    if (to - from < 10 || to - from > LONGEST) {
      return -1;
    }
    int start = from;
    while (start < to - 9 && text.charAt(start) <= ' ') {
      start++;
    }
    char first = text.charAt(start);
    boolean python = first == 'F' && text.startsWith("File \"", start);
    boolean jvm = first == 'a' && text.charAt(to - 1) == ')' && text.startsWith("at ", start);
    return jvm || python && ofPython(text, start, to) > 0 ? start : -1;
  }

  /** Where the number of the line stands. */
  private static int number(String text, int start, int to) {
    if (text.charAt(start) == 'F') {
      return ofPython(text, start, to);
    }
    int digits = to - 1;
    while (digits > start && Character.isDigit(text.charAt(digits - 1))) {
      digits--;
    }
    return digits < to - 1 && text.charAt(digits - 1) == ':' ? digits : to;
  }

  /** Where its number stands in a line as Python prints it; no more than the line is looked at. */
  private static int ofPython(String text, int start, int to) {
    int last = to - NUMBER.length();
    for (int i = start; i <= last; i++) {
      if (text.charAt(i) == '"' && text.startsWith(NUMBER, i)) {
        return i + NUMBER.length();
      }
    }
    return -1;
  }

  private static int afterNumber(String text, int number, int to) {
    int end = number;
    while (end < to && Character.isDigit(text.charAt(end))) {
      end++;
    }
    return end;
  }

  private static int hash(String text, int start, int number, int after, int to) {
    int hash = number - start;
    for (int i = Math.max(start, number - TELLING); i < number; i++) {
      hash = hash * 31 + text.charAt(i);
    }
    for (int i = after; i < to; i++) {
      hash = hash * 31 + text.charAt(i);
    }
    return hash ^ (hash >>> 15);
  }
}
