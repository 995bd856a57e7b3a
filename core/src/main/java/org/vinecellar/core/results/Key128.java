package org.vinecellar.core.results;

/**
 * A 128-bit key. With a billion of them the chance that any two meet is under one in 10^20. Has an
 * order, of no meaning, so that hash tables stay quick when somebody makes keys on purpose.
 */
public record Key128(long high, long low) implements Comparable<Key128> {
  /** All bits zero. */
  public static final Key128 ZERO = new Key128(0, 0);

  @Override
  public int compareTo(Key128 other) {
    int byHigh = Long.compare(high, other.high);
    return byHigh == 0 ? Long.compare(low, other.low) : byHigh;
  }

  /** Of any text; equal for equal texts, whichever run or machine made it. */
  public static Key128 of(String text) {
    return KeyMaker.get().of(ZERO, text, null);
  }
}
