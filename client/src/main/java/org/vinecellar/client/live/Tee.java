package org.vinecellar.client.live;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;

/** Writes all that is read from it to a file first, and to whoever else wants it. */
public final class Tee extends FilterInputStream {
  private final OutputStream kept;
  private final OutputStream passed;

  /**
   * @param kept gets every byte before the reader does
   * @param passed gets every byte too, and is flushed at once
   */
  public Tee(InputStream in, OutputStream kept, OutputStream passed) {
    super(in);
    this.kept = kept;
    this.passed = passed;
  }

  @Override
  public int read() throws IOException {
    byte[] one = new byte[1];
    return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
  }

  @Override
  public int read(byte[] target, int offset, int length) throws IOException {
    int n = super.read(target, offset, length);
    if (n > 0) {
      kept.write(target, offset, n);
      passed.write(target, offset, n);
      passed.flush();
    }
    return n;
  }
}
