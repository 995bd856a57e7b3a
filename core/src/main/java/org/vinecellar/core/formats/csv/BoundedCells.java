package org.vinecellar.core.formats.csv;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.UnreadableFileException;

/** Passes a text through and stops it where one row would become too large to be held. */
final class BoundedCells extends BufferedReader {
  private static final int MAX_CELLS = 5_000;

  private final long most;
  private long sinceLineEnd;
  private boolean quoted;
  private int separators;

  BoundedCells(Reader in, ReadLimits limits) {
    super(in, 1 << 16);
    this.most = 2L * limits.maxTextChars();
  }

  @Override
  public int read() throws IOException {
    int c = super.read();
    if (c >= 0) {
      count((char) c);
    }
    return c;
  }

  @Override
  public int read(char[] target, int offset, int length) throws IOException {
    int n = super.read(target, offset, length);
    for (int i = 0; i < n; i++) {
      count(target[offset + i]);
    }
    return n;
  }

  private void count(char c) {
    if (c == '"') {
      quoted = !quoted;
    }
    if ((c == ',' || c == ';' || c == '\t') && !quoted && ++separators > MAX_CELLS) {
      throw new UnreadableFileException("has a row of more than " + MAX_CELLS + " cells");
    }
    if (c == '\n' && !quoted) {
      separators = 0;
      sinceLineEnd = 0;
    } else if (++sinceLineEnd > most) {
      throw new UnreadableFileException(
          "has a row of more than " + most + " characters; is a quotation mark missing?");
    }
  }
}
