package org.vinecellar.service.bundles;

import java.util.Arrays;
import org.vinecellar.core.contents.Content;

/** A content with something put into it. */
record Spliced(Content whole, long at, byte[] more) implements Content {
  @Override
  public long size() {
    return whole.size() + more.length;
  }

  @Override
  public byte[] read(long offset, int most) {
    if (offset < at) {
      return whole.read(offset, (int) Math.min(most, at - offset));
    }
    long inside = offset - at;
    if (inside < more.length) {
      int from = (int) inside;
      return Arrays.copyOfRange(more, from, from + Math.min(most, more.length - from));
    }
    return whole.read(offset - more.length, most);
  }
}
