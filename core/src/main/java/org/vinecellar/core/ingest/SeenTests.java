package org.vinecellar.core.ingest;

import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;

/**
 * Remembers a word about every test of an upload, 16 bytes a slot and no objects, so that a million
 * tests cost some twenty megabytes. Tests are told apart by 64 bits: among a million, the chance
 * that two meet is one in 37 million. The ugly fast part of joining: a hash table in segments, each
 * of which grows by a third, so that growing never holds much twice; key and word lie side by side.
 * A bit filter tells nearly all new tests without a look into the table, and new ones go in by the
 * dozen, so that the processor waits for memory once and not once for each.
 */
final class SeenTests {
  private static final int SEGMENTS = 64;

  /** Two longs for each of 32 tests. */
  private static final int WAITING = 64;

  /** Beyond so many tests the table no longer fits the processor's caches. */
  private static final int FILTER_FROM = 30_000;

  /** 16 million bits. */
  private static final int FILTER_WORDS = 1 << 18;

  private static final int ORDINAL_BITS = 23;
  private static final int FILE_BITS = 14;
  private static final int PRINT_BITS = 14;

  // From the low end: ordinal 23, file 14, attempts 8, outcome 3, numbered 1, used 1, print 14.
  private static final int FILE_AT = ORDINAL_BITS;
  private static final int ATTEMPTS_AT = FILE_AT + FILE_BITS;
  private static final int OUTCOME_AT = ATTEMPTS_AT + 8;
  private static final long NUMBERED = 1L << (OUTCOME_AT + 3);
  private static final long USED = NUMBERED << 1;
  private static final int PRINT_AT = 64 - PRINT_BITS;

  /** The most attempts of one test that are kept. */
  static final int MAX_ATTEMPTS = 255;

  /** The most tests in the most files of one upload. */
  static final int MAX_TESTS = (1 << ORDINAL_BITS) - 1;

  static final int MAX_FILES = (1 << FILE_BITS) - 1;

  private final long[][] segments = new long[SEGMENTS][128];
  private final int[] sizes = new int[SEGMENTS];
  private final long[][] waiting = new long[SEGMENTS][WAITING];
  private final int[] waitingSizes = new int[SEGMENTS];
  private long[] filter = new long[0];
  private int total;

  /** The slot of a test, good until the next is put in; negative when it was not seen. */
  int find(Key128 key) {
    if (filter.length > 0 && (filter[filterAt(key.low())] >>> key.low() & 1) == 0) {
      return -1;
    }
    int segment = segment(key.low());
    insertWaiting(segment);
    int at = place(segments[segment], key.low());
    return segments[segment][at + 1] == 0 ? -1 : segment << 25 | at;
  }

  void put(Key128 key, int ordinal, Outcome outcome, int attempts, int file, int print) {
    if (ordinal > MAX_TESTS || file > MAX_FILES) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "the upload has more than "
              + MAX_TESTS
              + " tests or "
              + MAX_FILES
              + " files; send it in parts (--run KEY)");
    }
    int segment = segment(key.low());
    long[] queue = waiting[segment];
    int at = waitingSizes[segment];
    queue[at] = key.low();
    queue[at + 1] =
        USED
            | ordinal
            | (long) file << FILE_AT
            | (long) Math.min(attempts, MAX_ATTEMPTS) << ATTEMPTS_AT
            | (long) outcome.code() << OUTCOME_AT
            | (long) print << PRINT_AT;
    waitingSizes[segment] = at + 2;
    if (at + 2 == queue.length) {
      insertWaiting(segment);
    }
    if (filter.length > 0) {
      filter[filterAt(key.low())] |= 1L << key.low();
    } else if (++total == FILTER_FROM) {
      makeFilter();
    }
  }

  private void makeFilter() {
    filter = new long[FILTER_WORDS];
    for (int segment = 0; segment < SEGMENTS; segment++) {
      insertWaiting(segment);
      long[] slots = segments[segment];
      for (int i = 0; i < slots.length; i += 2) {
        if (slots[i + 1] != 0) {
          filter[filterAt(slots[i])] |= 1L << slots[i];
        }
      }
    }
  }

  private static int filterAt(long key) {
    return (int) (key >>> 12) & FILTER_WORDS - 1;
  }

  private void insertWaiting(int segment) {
    long[] queue = waiting[segment];
    int end = waitingSizes[segment];
    waitingSizes[segment] = 0;
    for (int i = 0; i < end; i += 2) {
      long[] slots = segments[segment];
      if (++sizes[segment] * 3L > slots.length) {
        slots = grown(slots);
        segments[segment] = slots;
      }
      int at = place(slots, queue[i]);
      slots[at] = queue[i];
      slots[at + 1] = queue[i + 1];
    }
  }

  int ordinal(int slot) {
    return (int) (word(slot) & MAX_TESTS);
  }

  int file(int slot) {
    return (int) (word(slot) >>> FILE_AT & MAX_FILES);
  }

  int attempts(int slot) {
    return (int) (word(slot) >>> ATTEMPTS_AT & MAX_ATTEMPTS);
  }

  void attempts(int slot, int attempts) {
    set(
        slot,
        (long) MAX_ATTEMPTS << ATTEMPTS_AT,
        (long) Math.min(attempts, MAX_ATTEMPTS) << ATTEMPTS_AT);
  }

  Outcome outcome(int slot) {
    return Outcome.ofCode((int) (word(slot) >>> OUTCOME_AT & 7));
  }

  void outcome(int slot, Outcome outcome) {
    set(slot, 7L << OUTCOME_AT, (long) outcome.code() << OUTCOME_AT);
  }

  boolean numbered(int slot) {
    return (word(slot) & NUMBERED) != 0;
  }

  void number(int slot) {
    set(slot, 0, NUMBERED);
  }

  /** Whether a test's last case had this fingerprint, as far as its low 14 bits tell. */
  boolean hasPrint(int slot, int print) {
    return word(slot) >>> PRINT_AT == ((long) print << PRINT_AT) >>> PRINT_AT;
  }

  void print(int slot, int print) {
    set(slot, -1L << PRINT_AT, (long) print << PRINT_AT);
  }

  private long word(int slot) {
    return segments[slot >>> 25][(slot & 0x1FFFFFF) + 1];
  }

  private void set(int slot, long mask, long bits) {
    long[] slots = segments[slot >>> 25];
    int at = (slot & 0x1FFFFFF) + 1;
    slots[at] = slots[at] & ~mask | bits;
  }

  private static int segment(long key) {
    return (int) key & SEGMENTS - 1;
  }

  private static long[] grown(long[] slots) {
    long[] larger = new long[(slots.length / 2 * 4 / 3 + 1) * 2];
    for (int i = 0; i < slots.length; i += 2) {
      if (slots[i + 1] != 0) {
        int at = place(larger, slots[i]);
        larger[at] = slots[i];
        larger[at + 1] = slots[i + 1];
      }
    }
    return larger;
  }

  /** Keys are the output of a good hash, so their upper half, scaled, serves as it is. */
  private static int place(long[] slots, long key) {
    int capacity = slots.length / 2;
    int at = (int) ((key >>> 32) * capacity >>> 32) * 2;
    while (slots[at + 1] != 0 && slots[at] != key) {
      at += 2;
      if (at == slots.length) {
        at = 0;
      }
    }
    return at;
  }
}
