package org.vinecellar.store.blobs;

import java.io.IOException;
import java.io.OutputStream;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Collection;
import org.jooq.DSLContext;
import org.vinecellar.core.contents.Content;

/**
 * Where contents of any size are kept, by numbers that the database gives out. What is kept is
 * durable at the latest when the transaction is that comes to name it; {@link KeptContents} sees to
 * it that what nothing names is dropped. Thread-safe.
 */
public interface BlobStore {
  /** A content on its way in. */
  @FunctionalInterface
  interface Coming {
    void writeTo(OutputStream out) throws IOException;
  }

  /**
   * Keeps a content.
   *
   * @param own the caller's transaction, which comes to know the content by its hash, for kinds
   *     that keep contents beside all else
   * @param number one that no content has had
   * @return how many bytes it has
   */
  long put(Connection own, int projectId, long number, Coming content)
      throws IOException, SQLException;

  /** A content that was kept; nothing of it is read yet. */
  Content content(int projectId, long number, long size);

  /**
   * Drops contents, and minds none that is gone already.
   *
   * @param own the transaction in which the last that named them goes
   */
  void drop(DSLContext own, int projectId, Collection<Long> numbers);
}
