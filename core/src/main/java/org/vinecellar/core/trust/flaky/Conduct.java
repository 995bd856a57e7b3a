package org.vinecellar.core.trust.flaky;

import java.nio.ByteBuffer;
import org.jspecify.annotations.Nullable;

/**
 * How a test has done in a stream so far. Immutable.
 *
 * @param stumbles in how many runs a try of it failed by itself
 * @param since the run with the first of those failures that still count; null when none does
 * @param taken the run that made it be taken for what it is now; null when it always was
 */
public record Conduct(Belief belief, int stumbles, @Nullable Long since, @Nullable Long taken) {
  /** Of a test that no run has had. */
  public static Conduct start() {
    return new Conduct(Belief.start(), 0, null, null);
  }

  /**
   * What {@link #toBytes} made.
   *
   * @throws IllegalArgumentException when it is not that
   */
  public static Conduct of(byte[] bytes) {
    ByteBuffer buffer = ByteBuffer.wrap(bytes);
    Long since = number(buffer.getLong());
    Long taken = number(buffer.getLong());
    int stumbles = buffer.getInt();
    byte[] belief = new byte[buffer.remaining()];
    buffer.get(belief);
    return new Conduct(Belief.of(belief), stumbles, since, taken);
  }

  private static @Nullable Long number(long kept) {
    return kept < 0 ? null : (Long) kept;
  }

  /** All of it, to be kept. What is read again is the same. */
  public byte[] toBytes() {
    byte[] kept = belief.toBytes();
    return ByteBuffer.allocate(2 * Long.BYTES + Integer.BYTES + kept.length)
        .putLong(since == null ? -1 : since)
        .putLong(taken == null ? -1 : taken)
        .putInt(stumbles)
        .put(kept)
        .array();
  }

  /** With one more run, which began after those before. */
  public Conduct after(Sight sight, long run) {
    Belief next = belief.after(sight);
    Long first = since == null && sight.stumbled() ? (Long) run : since;
    Verdict now = next.verdict();
    return new Conduct(
        next,
        stumbles + (sight.stumbled() ? 1 : 0),
        now == Verdict.STEADY ? null : first,
        now == belief.verdict() ? taken : (Long) run);
  }
}
