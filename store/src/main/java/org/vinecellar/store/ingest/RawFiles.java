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

  private final CopyManager copies;
  private final int projectId;
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

  void keep(DSLContext dsl, SourceFile file) throws IOException, SQLException {
    long blobId = dsl.fetchSingle("select nextval('blob_id')").get(0, Long.class);
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

  /** Sends a row for every full piece. */
  private final class Pieces extends OutputStream {
    private final CopyBuffer rows =
        new CopyBuffer("blob_chunk (project_id, blob_id, chunk_no, content)", 4);
    private final long blobId;
    private final byte[] piece = new byte[PIECE];
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
      try {
        rows.send(copies);
      } catch (SQLException e) {
        throw new IOException(e);
      }
    }
  }
}
