package org.vinecellar.core.streams;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Counts what is read of another stream. */
public class CountingStream extends FilterInputStream {
  private long count;

  /** Over that stream. */
  public CountingStream(InputStream in) {
    super(in);
  }

  /** How many bytes were read until now. */
  public final long count() {
    return count;
  }

  /** Called after each reading with what it brought; may refuse to go on by throwing. */
  protected void counted(int more) {}

  @Override
  public final int read() throws IOException {
    int b = super.read();
    add(b < 0 ? 0 : 1);
    return b;
  }

  @Override
  public final int read(byte[] target, int offset, int length) throws IOException {
    int n = super.read(target, offset, length);
    add(Math.max(n, 0));
    return n;
  }

  private void add(int more) {
    count += more;
    counted(more);
  }
}
