package org.vinecellar.store.blobs;

import static org.vinecellar.store.generated.Tables.BLOB_CHUNK;

import java.io.IOException;
import java.io.OutputStream;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.Collection;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import org.vinecellar.core.contents.Content;
import org.vinecellar.store.sql.CopyBuffer;
import org.vinecellar.store.sql.Sql;

/** Contents in rows of PostgreSQL, in pieces that fit in memory. */
public final class PgBlobStore implements BlobStore {
  /** Bytes in a row; only the last of a content has fewer. */
  private static final int ROW = 512 << 10;

  private static final int BATCH_BYTES = 1 << 20;

  private static final byte[] NOTHING = {};

  private final Sql sql;

  /**
   * @param sql where contents are read
   */
  public PgBlobStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public long put(Connection own, int projectId, long number, Coming content)
      throws IOException, SQLException {
    Pieces pieces = new Pieces(own.unwrap(PGConnection.class).getCopyAPI(), projectId, number);
    content.writeTo(pieces);
    return pieces.end();
  }

  @Override
  public Content content(int projectId, long number, long size) {
    return new Rows(sql, projectId, number, size);
  }

  @Override
  public void drop(DSLContext own, int projectId, Collection<Long> numbers) {
    own.deleteFrom(BLOB_CHUNK)
        .where(
            BLOB_CHUNK.PROJECT_ID.eq(projectId),
            BLOB_CHUNK.BLOB_ID.eq(DSL.any(numbers.toArray(Long[]::new))))
        .execute();
  }

  /** Each piece is asked for on a connection of its own, so that a slow reader holds none. */
  private record Rows(Sql sql, int projectId, long number, long size) implements Content {
    @Override
    public byte[] read(long offset, int most) {
      int inside = (int) (offset % ROW);
      byte[] piece =
          sql.with(
              dsl ->
                  dsl.select(
                          DSL.function(
                              "substring",
                              BLOB_CHUNK.CONTENT.getDataType(),
                              BLOB_CHUNK.CONTENT,
                              DSL.val(inside + 1),
                              DSL.val(most)))
                      .from(BLOB_CHUNK)
                      .where(
                          BLOB_CHUNK.PROJECT_ID.eq(projectId),
                          BLOB_CHUNK.BLOB_ID.eq(number),
                          BLOB_CHUNK.CHUNK_NO.eq((int) (offset / ROW)))
                      .fetchOne(0, byte[].class));
      return piece == null ? NOTHING : piece;
    }
  }

  /** Makes a row of every full piece, and sends the rows when they have become many bytes. */
  private static final class Pieces extends OutputStream {
    private final CopyManager copies;
    private final int projectId;
    private final long number;
    private final CopyBuffer rows =
        new CopyBuffer("blob_chunk (project_id, blob_id, chunk_no, content)", 4);
    private byte[] piece = new byte[8 << 10];
    private int filled;
    private int no;
    private long total;

    Pieces(CopyManager copies, int projectId, long number) {
      this.copies = copies;
      this.projectId = projectId;
      this.number = number;
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
        int n = Math.min(left, ROW - filled);
        if (filled + n > piece.length) {
          piece = Arrays.copyOf(piece, Math.min(ROW, Math.max(2 * piece.length, filled + n)));
        }
        System.arraycopy(source, from, piece, filled, n);
        filled += n;
        from += n;
        left -= n;
        if (filled == ROW) {
          row();
        }
      }
    }

    /** What {@link #close} cannot know: packing streams close this one before its end is told. */
    long end() throws IOException {
      if (filled > 0 || no == 0) {
        row();
      }
      send();
      return total;
    }

    private void row() throws IOException {
      rows.row();
      rows.int4(projectId);
      rows.int8(number);
      rows.int4(no++);
      rows.binary(piece, filled);
      total += filled;
      filled = 0;
      if (rows.size() >= BATCH_BYTES) {
        send();
      }
    }

    private void send() throws IOException {
      try {
        rows.send(copies);
      } catch (SQLException e) {
        throw new IOException(e);
      }
    }
  }
}
