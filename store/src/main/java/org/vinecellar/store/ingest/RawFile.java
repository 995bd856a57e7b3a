package org.vinecellar.store.ingest;

import java.util.ArrayList;
import java.util.List;
import org.vinecellar.store.blobs.KeptContents;

/**
 * A file of an upload as it is kept.
 *
 * @param content the beginning of its hash, unpacked: 64 bits, by which a stream's own files are
 *     told apart
 */
record RawFile(KeptContents.Kept kept, long content) {
  private static final int HEX_DIGITS = 16;

  /** Kept files with the hashes of their contents, in the same order. */
  static List<RawFile> of(List<KeptContents.Kept> kept, List<String> hashes) {
    List<RawFile> files = new ArrayList<>(kept.size());
    for (int i = 0; i < kept.size(); i++) {
      String hash = hashes.get(i).substring(0, HEX_DIGITS);
      files.add(new RawFile(kept.get(i), Long.parseUnsignedLong(hash, 16)));
    }
    return files;
  }
}
