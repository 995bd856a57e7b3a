package org.vinecellar.store.sql;

import static org.vinecellar.store.generated.Tables.BLOB_CHUNK;

import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** Contents of any size, read in the pieces in which they are kept. */
public final class Blobs {
  private Blobs() {}

  /**
   * One piece.
   *
   * @param number from 0
   * @return null behind the last one
   */
  public static byte @Nullable [] piece(DSLContext dsl, int projectId, long blob, int number) {
    return dsl.select(BLOB_CHUNK.CONTENT)
        .from(BLOB_CHUNK)
        .where(
            BLOB_CHUNK.PROJECT_ID.eq(projectId),
            BLOB_CHUNK.BLOB_ID.eq(blob),
            BLOB_CHUNK.CHUNK_NO.eq(number))
        .fetchOne(BLOB_CHUNK.CONTENT);
  }

  /** All pieces, one after the other. */
  public static void all(DSLContext dsl, int projectId, long blob, Consumer<byte[]> pieces) {
    int number = 0;
    byte[] bytes = piece(dsl, projectId, blob, number);
    while (bytes != null) {
      pieces.accept(bytes);
      bytes = piece(dsl, projectId, blob, ++number);
    }
  }
}
