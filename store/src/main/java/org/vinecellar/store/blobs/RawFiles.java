package org.vinecellar.store.blobs;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.Deflater;
import java.util.zip.GZIPOutputStream;
import org.vinecellar.core.ingest.SourceFile;

/** Keeps files as they came, packed with gzip. */
public final class RawFiles {
  private RawFiles() {}

  /** Keeps files; what is kept of each, in their order. */
  public static List<KeptContents.Kept> keep(
      List<? extends SourceFile> files, KeptContents contents) throws IOException, SQLException {
    List<BlobStore.Coming> packed = new ArrayList<>(files.size());
    files.forEach(file -> packed.add(out -> pack(file, out)));
    return contents.keepAll(packed);
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
