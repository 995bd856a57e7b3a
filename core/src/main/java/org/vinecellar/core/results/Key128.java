package org.vinecellar.core.results;

/** A 128-bit key. With a billion of them the chance that any two meet is under one in 10^20. */
public record Key128(long high, long low) {
  /** All bits zero. */
  public static final Key128 ZERO = new Key128(0, 0);
}
