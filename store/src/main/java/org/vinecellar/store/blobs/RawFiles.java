package org.vinecellar.store.blobs;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;
import org.vinecellar.core.contents.Sha256;
import org.vinecellar.core.ingest.SourceFile;

/** Keeps files as they came, packed with gzip. */
public final class RawFiles {
  private RawFiles() {}

  /** A file that is kept now. */
  public record Kept(long blobId, long packedBytes) {}

  /** Keeps files; what is kept of each, in their order. */
  public static List<Kept> keep(List<? extends SourceFile> files, KeptContents contents)
      throws IOException, SQLException {
    List<Long> numbers = contents.numbers(files.size());
    List<KeptContents.Fresh> fresh = new ArrayList<>(files.size());
    MessageDigest sha256 = Sha256.start();
    for (int i = 0; i < files.size(); i++) {
      SourceFile file = files.get(i);
      long bytes =
          contents.put(numbers.get(i), out -> pack(file, new DigestOutputStream(out, sha256)));
      fresh.add(new KeptContents.Fresh(Sha256.hex(sha256), numbers.get(i), bytes));
    }
    List<Long> blobs = contents.claim(fresh);
    List<Kept> kept = new ArrayList<>(files.size());
    for (int i = 0; i < files.size(); i++) {
      kept.add(new Kept(blobs.get(i), fresh.get(i).bytes()));
    }
    return kept;
  }

  private static void pack(SourceFile file, OutputStream out) throws IOException {
    try (InputStream in = new BufferedInputStream(file.open())) {
      in.mark(2);
      boolean packed = in.read() == 0x1F && in.read() == 0x8B;
      in.reset();
      if (packed) {
        in.transferTo(out);
      } else {
        try (OutputStream packing = new FastGzip(out)) {
          in.transferTo(packing);
        }
      }
    }
  }

  private static final class FastGzip extends GZIPOutputStream {
    FastGzip(OutputStream out) throws IOException {
      super(out, 1 << 16);
      def.setLevel(Deflater.BEST_SPEED);
    }
  }
}
