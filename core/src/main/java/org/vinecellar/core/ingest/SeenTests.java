package org.vinecellar.core.ingest;

import java.security.SecureRandom;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;

/**
 * Remembers a word about every test of an upload, 16 bytes a slot and no objects, so that a million
 * tests cost some thirty megabytes. Tests are told apart by 64 bits: among a million, the chance
 * that two meet is one in 37 million.
 *
 * <p>Each suite has a table of its own, since a file tells the tests of a suite together: the table
 * in use fits the processor's caches, where one of all tests would not.
 */
final class SeenTests {
  /** Further suites share tables, so that a file of a million suites costs no more than others. */
  private static final int MAX_SUITE_TABLES = 20_000;

  private static final int SHARED_TABLES = 64;

  private static final int ORDINAL_BITS = 23;
  private static final int FILE_BITS = 14;
  private static final int PRINT_BITS = 14;

  // From the low end: ordinal 23, file 14, attempts 8, outcome 3, free 1, used 1, print 14.
  private static final int FILE_AT = ORDINAL_BITS;
  private static final int ATTEMPTS_AT = FILE_AT + FILE_BITS;
  private static final int OUTCOME_AT = ATTEMPTS_AT + 8;
  private static final long USED = 1L << (OUTCOME_AT + 4);
  private static final int PRINT_AT = 64 - PRINT_BITS;

  private static final long SPREAD = new SecureRandom().nextLong() | 1;

  /** The most attempts of one test that are kept. */
  static final int MAX_ATTEMPTS = 255;

  /** The most tests in the most files of one upload. */
  static final int MAX_TESTS = (1 << ORDINAL_BITS) - 1;

  static final int MAX_FILES = (1 << FILE_BITS) - 1;

  private final Map<Key128, Table> suites = new HashMap<>();
  private final @Nullable Table[] shared = new Table[SHARED_TABLES];
  private @Nullable SuitePath suite;

  /** Where the test that was last looked for, and not found, belongs. */
  private int free;

  private Table table = new Table();

  /** An open-addressing hash table of key and word, side by side. */
  private static final class Table {
    private long[] slots = new long[32];
    private int size;

    /** By a factor that nobody outside knows: keys made on purpose are spread like others. */
    static int place(long[] slots, long key) {
      int mask = slots.length - 1;
      int at = (int) (key * SPREAD >>> Long.numberOfLeadingZeros(slots.length) + 2) << 1;
      while (slots[at + 1] != 0 && slots[at] != key) {
        at = at + 2 & mask;
      }
      return at;
    }

    /** Fills the free slot that {@link #place} found for the key. */
    void put(int free, long key, long word) {
      int at = free;
      if (++size * 8L > slots.length * 3L) {
        grow();
        at = place(slots, key);
      }
      slots[at] = key;
      slots[at + 1] = word;
    }

    private void grow() {
      long[] larger = new long[slots.length * 2];
      for (int i = 0; i < slots.length; i += 2) {
        if (slots[i + 1] != 0) {
          int at = place(larger, slots[i]);
          larger[at] = slots[i];
          larger[at + 1] = slots[i + 1];
        }
      }
      slots = larger;
    }
  }

  /** The slot of a test, good until the next call; negative when it was not seen. */
  int find(TestId test) {
    choose(test.suite());
    int at = Table.place(table.slots, test.key().low());
    if (table.slots[at + 1] != 0) {
      return at;
    }
    free = at;
    return -1;
  }

  private void choose(SuitePath wanted) {
    if (wanted == suite) {
      return;
    }
    suite = wanted;
    Table known = suites.get(wanted.key());
    if (known == null && suites.size() < MAX_SUITE_TABLES) {
      known = new Table();
      suites.put(wanted.key(), known);
    }
    table = known == null ? sharedTable((int) wanted.key().low() & SHARED_TABLES - 1) : known;
  }

  private Table sharedTable(int number) {
    Table known = shared[number];
    if (known == null) {
      known = new Table();
      shared[number] = known;
    }
    return known;
  }

  /** Adds the test that {@link #find} just did not find. */
  void put(TestId test, int ordinal, Outcome outcome, int attempts, int file, int print) {
    if (ordinal > MAX_TESTS || file > MAX_FILES) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "the upload has more than "
              + MAX_TESTS
              + " tests or "
              + MAX_FILES
              + " files; send it in parts (--run KEY)");
    }
    table.put(
        free,
        test.key().low(),
        USED
            | ordinal
            | (long) file << FILE_AT
            | (long) Math.min(attempts, MAX_ATTEMPTS) << ATTEMPTS_AT
            | (long) outcome.code() << OUTCOME_AT
            | (long) print << PRINT_AT);
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
    long kept = Math.min(attempts, MAX_ATTEMPTS);
    set(slot, (long) MAX_ATTEMPTS << ATTEMPTS_AT, kept << ATTEMPTS_AT);
  }

  Outcome outcome(int slot) {
    return Outcome.ofCode((int) (word(slot) >>> OUTCOME_AT & 7));
  }

  void outcome(int slot, Outcome outcome) {
    set(slot, 7L << OUTCOME_AT, (long) outcome.code() << OUTCOME_AT);
  }

  /** Whether a test's last case had this fingerprint, as far as its low 14 bits tell. */
  boolean hasPrint(int slot, int print) {
    return word(slot) >>> PRINT_AT == ((long) print << PRINT_AT) >>> PRINT_AT;
  }

  void print(int slot, int print) {
    set(slot, -1L << PRINT_AT, (long) print << PRINT_AT);
  }

  private long word(int slot) {
    return table.slots[slot + 1];
  }

  private void set(int slot, long mask, long bits) {
    table.slots[slot + 1] = table.slots[slot + 1] & ~mask | bits;
  }
}
