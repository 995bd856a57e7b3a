package org.vinecellar.core.ingest;

import java.util.TreeSet;
import org.vinecellar.core.results.TestResult;

/**
 * A small sample of the names of the tests of a file: the same one whatever the order in which they
 * come, so that two files can be compared (the least hashes, as in Broder's bottom-k sketch). Only
 * the end of a name counts, since formats put what is around a test before it in different ways.
 */
final class NameSample {
  private static final int SIZE = 48;
  private static final int END = 12;

  private final TreeSet<Integer> least = new TreeSet<>();
  private int worst;

  void see(TestResult result) {
    see(hash(result.test().name()));
  }

  /** What another one has seen. */
  void seeAll(NameSample other) {
    other.least.forEach(this::see);
  }

  private void see(int hash) {
    if (least.size() < SIZE) {
      least.add(hash);
      worst = least.last();
    } else if (hash < worst && least.add(hash)) {
      least.pollLast();
      worst = least.last();
    }
  }

  /** Whether more than half of the names stand in both. */
  boolean isLike(NameSample other) {
    TreeSet<Integer> both = new TreeSet<>(least);
    both.addAll(other.least);
    int looked = 0;
    int common = 0;
    for (int hash : both) {
      if (++looked > SIZE) {
        break;
      }
      common += least.contains(hash) && other.least.contains(hash) ? 1 : 0;
    }
    return common * 2 > Math.min(looked, SIZE);
  }

  private static int hash(String name) {
    int hash = 0;
    for (int i = Math.max(0, name.length() - END); i < name.length(); i++) {
      hash = hash * 31 + name.charAt(i);
    }
    // Mixed, so that the least ones are any of them (the finalizer of MurmurHash3).
    hash ^= hash >>> 16;
    hash *= 0x85EBCA6B;
    hash ^= hash >>> 13;
    hash *= 0xC2B2AE35;
    return hash ^ (hash >>> 16);
  }
}
