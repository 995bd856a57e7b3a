package org.vinecellar.store.blobs;

import java.io.IOException;
import java.io.OutputStream;
import java.sql.SQLException;
import org.postgresql.copy.CopyManager;
import org.vinecellar.store.sql.CopyBuffer;

/** Contents of any size on their way into the database, in pieces that fit in memory. */
public final class BlobRows {
  private static final int PIECE = 512 << 10;
  private static final int BATCH_BYTES = 1 << 20;

  private final CopyManager copies;
  private final int projectId;
  private final CopyBuffer rows =
      new CopyBuffer("blob_chunk (project_id, blob_id, chunk_no, content)", 4);
  private final byte[] piece = new byte[PIECE];

  /** On a connection that copies. */
  public BlobRows(CopyManager copies, int projectId) {
    this.copies = copies;
    this.projectId = projectId;
  }

  /** Takes one blob's content; only one at a time. */
  public Pieces blob(long blobId) {
    return new Pieces(blobId);
  }

  /** Sends what waits. */
  public void send() throws SQLException {
    rows.send(copies);
  }

  /** Makes a row of every full piece, and sends the rows when they have become many bytes. */
  public final class Pieces extends OutputStream {
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

    /** Bytes so far. */
    public long total() {
      return total;
    }

    /** Ends the blob; what {@link #close} cannot know. */
    public void end() throws IOException {
      if (filled > 0 || number == 0) {
        send();
      }
    }

    private void send() throws IOException {
      rows.row();
      rows.int4(projectId);
      rows.int8(blobId);
      rows.int4(number++);
      rows.binary(piece, filled);
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
