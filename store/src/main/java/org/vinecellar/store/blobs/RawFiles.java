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
import org.jooq.DSLContext;
import org.postgresql.copy.CopyManager;
import org.vinecellar.core.ingest.SourceFile;

/** Keeps files as they came, packed with gzip, in pieces that fit in memory. */
public final class RawFiles {
  private final BlobRows rows;
  private final List<Kept> kept = new ArrayList<>();

  /** A file that is in the database now. */
  public record Kept(long blobId, long packedBytes) {}

  public RawFiles(CopyManager copies, int projectId) {
    this.rows = new BlobRows(copies, projectId);
  }

  /** What is kept by now, in the order of the files. */
  public List<Kept> kept() {
    return kept;
  }

  /** Keeps files. */
  public void keep(DSLContext dsl, List<? extends SourceFile> files)
      throws IOException, SQLException {
    List<Long> blobIds =
        dsl.fetch("select nextval('blob_id') from generate_series(1, ?)", files.size())
            .getValues(0, Long.class);
    for (int i = 0; i < files.size(); i++) {
      keep(blobIds.get(i), files.get(i));
    }
    rows.send();
  }

  private void keep(long blobId, SourceFile file) throws IOException {
    try (InputStream in = new BufferedInputStream(file.open());
        BlobRows.Pieces pieces = rows.blob(blobId)) {
      in.mark(2);
      boolean packed = in.read() == 0x1F && in.read() == 0x8B;
      in.reset();
      if (packed) {
        in.transferTo(pieces);
      } else {
        try (OutputStream packing = new FastGzip(pieces)) {
          in.transferTo(packing);
        }
      }
      pieces.end();
      kept.add(new Kept(blobId, pieces.total()));
    }
  }

  private static final class FastGzip extends GZIPOutputStream {
    FastGzip(OutputStream out) throws IOException {
      super(out, 1 << 16);
      def.setLevel(Deflater.BEST_SPEED);
    }
  }
}
