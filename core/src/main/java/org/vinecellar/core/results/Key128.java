package org.vinecellar.core.results;

import java.util.UUID;

/** A 128-bit key. With a billion of them the chance that any two meet is under one in 10^20. */
public record Key128(long high, long low) {
  /** All bits zero. */
  public static final Key128 ZERO = new Key128(0, 0);

  /** The same bits as a UUID, for storage. */
  public UUID toUuid() {
    return new UUID(high, low);
  }
}
