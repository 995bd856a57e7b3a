package org.vinecellar.store.ingest;

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
final class RawFiles {
  private static final int PIECE = 512 << 10;
  private static final int BATCH_BYTES = 1 << 20;

  private final CopyManager copies;
  private final int projectId;
  private final CopyBuffer rows =
      new CopyBuffer("blob_chunk (project_id, blob_id, chunk_no, content)", 4);
  private final byte[] piece = new byte[PIECE];
  private final List<Kept> kept = new ArrayList<>();

  /** A file that is in the database now. */
  record Kept(long blobId, long packedBytes) {}

  RawFiles(CopyManager copies, int projectId) {
    this.copies = copies;
    this.projectId = projectId;
  }

  List<Kept> kept() {
    return kept;
  }

  void keep(DSLContext dsl, List<? extends SourceFile> files) throws IOException, SQLException {
    List<Long> blobIds =
        dsl.fetch("select nextval('blob_id') from generate_series(1, ?)", files.size())
            .getValues(0, Long.class);
    for (int i = 0; i < files.size(); i++) {
      keep(blobIds.get(i), files.get(i));
    }
    rows.send(copies);
  }

  private void keep(long blobId, SourceFile file) throws IOException {
    try (InputStream in = new BufferedInputStream(file.open());
        Pieces pieces = new Pieces(blobId)) {
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
      kept.add(new Kept(blobId, pieces.total));
    }
  }

  private static final class FastGzip extends GZIPOutputStream {
    FastGzip(OutputStream out) throws IOException {
      super(out, 1 << 16);
      def.setLevel(Deflater.BEST_SPEED);
    }
  }

  /** Makes a row of every full piece, and sends the rows when they have become many bytes. */
  private final class Pieces extends OutputStream {
    private final long blobId;
    private int filled;
    private int number;
    private long total;

    Pieces(long blobId) {
      this.blobId = blobId;
    }

    @Override
    public void write(int b) throws IOException {
      write(new byte[] {(byte) b}, 0, 1);
    }

    @Override
    public void write(byte[] source, int offset, int length) throws IOException {
      int from = offset;
      int left = length;
      while (left > 0) {
        int n = Math.min(left, piece.length - filled);
        System.arraycopy(source, from, piece, filled, n);
        filled += n;
        from += n;
        left -= n;
        if (filled == piece.length) {
          send();
        }
      }
    }

    @Override
    public void close() {
      // Nothing to do: the packing stream closes this one before its end is known.
    }

    private void end() throws IOException {
      if (filled > 0 || number == 0) {
        send();
      }
    }

    private void send() throws IOException {
      rows.row();
      rows.int4(projectId);
      rows.int8(blobId);
      rows.int4(number++);
      rows.binary(java.util.Arrays.copyOf(piece, filled));
      total += filled;
      filled = 0;
      if (rows.size() < BATCH_BYTES) {
        return;
      }
      try {
        rows.send(copies);
      } catch (SQLException e) {
        throw new IOException(e);
      }
    }
  }
}
