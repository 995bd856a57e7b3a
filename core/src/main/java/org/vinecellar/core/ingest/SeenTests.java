package org.vinecellar.core.ingest;

import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;

/**
 * Remembers a few words about every test of an upload in flat arrays, 20 bytes a slot, so that a
 * million tests cost tens of megabytes and no objects. Tests are told apart by 64 bits: among a
 * million, the chance that two meet is one in 37 million.
 */
final class SeenTests {
  private static final int ORDINAL_BITS = 24;
  private static final int FILE_BITS = 20;

  // From the low end: ordinal 24, file 20, attempts 8, outcome 3, numbered 1, used 1.
  private static final long ORDINAL_MASK = (1L << ORDINAL_BITS) - 1;
  private static final long FILE_MASK = (1L << FILE_BITS) - 1;
  private static final int ATTEMPTS_AT = ORDINAL_BITS + FILE_BITS;
  private static final int OUTCOME_AT = ATTEMPTS_AT + 8;
  private static final long NUMBERED = 1L << (OUTCOME_AT + 3);
  private static final long USED = NUMBERED << 1;

  private long[] keys = new long[1024];
  private long[] words = new long[1024];
  private int[] prints = new int[1024];
  private int size;

  /** The slot of a test; negative when it was not seen. */
  int find(Key128 key) {
    int slot = slot(keys, words, key.low());
    return words[slot] == 0 ? -1 : slot;
  }

  void put(Key128 key, int ordinal, Outcome outcome, int attempts, int file, int print) {
    if (ordinal > ORDINAL_MASK || file > FILE_MASK) {
      throw new IllegalArgumentException("more than " + ORDINAL_MASK + " tests or too many files");
    }
    if (++size > keys.length * 3L / 4) {
      grow();
    }
    int slot = slot(keys, words, key.low());
    keys[slot] = key.low();
    words[slot] =
        USED
            | ordinal
            | (long) file << ORDINAL_BITS
            | (long) attempts << ATTEMPTS_AT
            | (long) outcome.code() << OUTCOME_AT;
    prints[slot] = print;
  }

  int ordinal(int slot) {
    return (int) (words[slot] & ORDINAL_MASK);
  }

  int file(int slot) {
    return (int) (words[slot] >>> ORDINAL_BITS & FILE_MASK);
  }

  int attempts(int slot) {
    return (int) (words[slot] >>> ATTEMPTS_AT & 0xFF);
  }

  void attempts(int slot, int attempts) {
    words[slot] = words[slot] & ~(0xFFL << ATTEMPTS_AT) | (long) attempts << ATTEMPTS_AT;
  }

  Outcome outcome(int slot) {
    return Outcome.ofCode((int) (words[slot] >>> OUTCOME_AT & 7));
  }

  void outcome(int slot, Outcome outcome) {
    words[slot] = words[slot] & ~(7L << OUTCOME_AT) | (long) outcome.code() << OUTCOME_AT;
  }

  boolean numbered(int slot) {
    return (words[slot] & NUMBERED) != 0;
  }

  void number(int slot) {
    words[slot] |= NUMBERED;
  }

  int print(int slot) {
    return prints[slot];
  }

  void print(int slot, int print) {
    prints[slot] = print;
  }

  private void grow() {
    int capacity = keys.length * 2;
    long[] newKeys = new long[capacity];
    long[] newWords = new long[capacity];
    int[] newPrints = new int[capacity];
    for (int i = 0; i < keys.length; i++) {
      if (words[i] != 0) {
        int slot = slot(newKeys, newWords, keys[i]);
        newKeys[slot] = keys[i];
        newWords[slot] = words[i];
        newPrints[slot] = prints[i];
      }
    }
    keys = newKeys;
    words = newWords;
    prints = newPrints;
  }

  /** Keys are the output of a good hash, so their low bits serve as they are. */
  private static int slot(long[] keys, long[] words, long key) {
    int mask = keys.length - 1;
    int slot = (int) key & mask;
    while (words[slot] != 0 && keys[slot] != key) {
      slot = slot + 1 & mask;
    }
    return slot;
  }
}
