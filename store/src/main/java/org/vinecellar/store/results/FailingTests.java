package org.vinecellar.store.results;

import java.io.ByteArrayOutputStream;

/**
 * Which tests failed in a run and how often, in as few bytes as that needs. Numbers are written as
 * LEB128 does: seven bits a byte, the lowest first, the eighth bit set where more follow. Of each
 * test, by ascending number: four times how much greater its number is than that of the one before
 * (0 before the first), and 0 where one result failed, 1 where one errored; or 2, and then how many
 * failed and how many errored.
 */
public final class FailingTests {
  private static final int ONE_FAILED = 0;
  private static final int ONE_ERRORED = 1;
  private static final int TOLD = 2;

  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private long before;

  /** Takes what is read from there. */
  @FunctionalInterface
  public interface Reader {
    /** A test of which so many results failed, and so many errored. */
    void test(long test, int failed, int errored);
  }

  /**
   * One more test.
   *
   * @param test greater than the one before
   */
  public void add(long test, int failed, int errored) {
    if (test <= before) {
      throw new IllegalArgumentException(test + " after " + before);
    }
    long step = (test - before) << 2;
    before = test;
    if (failed == 1 && errored == 0) {
      write(step | ONE_FAILED);
    } else if (failed == 0 && errored == 1) {
      write(step | ONE_ERRORED);
    } else {
      write(step | TOLD);
      write(failed);
      write(errored);
    }
  }

  private void write(long number) {
    long left = number;
    while (left > 0x7f) {
      bytes.write((int) (left & 0x7f) | 0x80);
      left >>>= 7;
    }
    bytes.write((int) left);
  }

  /** What was added. */
  public byte[] packed() {
    return bytes.toByteArray();
  }

  /** Reads what was packed. */
  public static void read(byte[] packed, Reader reader) {
    long test = 0;
    int at = 0;
    long[] number = new long[1];
    while (at < packed.length) {
      at = next(packed, at, number);
      test += number[0] >>> 2;
      int code = (int) number[0] & 3;
      if (code == TOLD) {
        at = next(packed, at, number);
        int failed = (int) number[0];
        at = next(packed, at, number);
        reader.test(test, failed, (int) number[0]);
      } else {
        reader.test(test, code == ONE_FAILED ? 1 : 0, code == ONE_ERRORED ? 1 : 0);
      }
    }
  }

  /** Where the number ends that begins there. */
  private static int next(byte[] packed, int from, long[] number) {
    long read = 0;
    int at = from;
    for (int shift = 0; ; shift += 7) {
      byte some = packed[at++];
      read |= (long) (some & 0x7f) << shift;
      if (some >= 0) {
        number[0] = read;
        return at;
      }
    }
  }
}
