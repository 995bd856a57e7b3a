package org.vinecellar.store.blobs;

import static org.vinecellar.store.generated.Tables.BLOB_CHUNK;

import org.jooq.impl.DSL;
import org.vinecellar.core.contents.Content;
import org.vinecellar.store.sql.Sql;

/**
 * A content out of its rows. Each piece is asked for on a connection of its own, so that a slow
 * reader holds none.
 *
 * @param size in bytes
 */
public record BlobContent(Sql sql, int projectId, long blob, long size) implements Content {
  /** As the rows were cut when they came; only the last of a blob is smaller. */
  private static final int ROW = 512 << 10;

  private static final byte[] NOTHING = {};

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
                        BLOB_CHUNK.BLOB_ID.eq(blob),
                        BLOB_CHUNK.CHUNK_NO.eq((int) (offset / ROW)))
                    .fetchOne(0, byte[].class));
    return piece == null ? NOTHING : piece;
  }
}
