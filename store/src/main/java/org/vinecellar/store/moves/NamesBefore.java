package org.vinecellar.store.moves;

import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.STREAM_NAME_BEFORE;

import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.store.streams.StreamNames;

/** What streams were called before. */
final class NamesBefore {
  private final DSLContext dsl;
  private final int projectId;

  NamesBefore(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** In order. */
  List<String> of(String stream) {
    return dsl.select(STREAM_NAME_BEFORE.NAME)
        .from(STREAM_NAME_BEFORE)
        .join(STREAM)
        .on(
            STREAM.PROJECT_ID.eq(STREAM_NAME_BEFORE.PROJECT_ID),
            STREAM.ID.eq(STREAM_NAME_BEFORE.STREAM_ID))
        .where(StreamNames.is(projectId, stream))
        .orderBy(STREAM_NAME_BEFORE.NAME)
        .fetch(STREAM_NAME_BEFORE.NAME);
  }

  /**
   * From now on the name leads to a stream.
   *
   * @param moved whether runs have other numbers there
   */
  void add(String name, long stream, boolean moved) {
    dsl.insertInto(STREAM_NAME_BEFORE)
        .set(STREAM_NAME_BEFORE.PROJECT_ID, projectId)
        .set(STREAM_NAME_BEFORE.NAME, name)
        .set(STREAM_NAME_BEFORE.STREAM_ID, stream)
        .set(STREAM_NAME_BEFORE.MOVED, moved)
        .onConflict(STREAM_NAME_BEFORE.PROJECT_ID, STREAM_NAME_BEFORE.NAME)
        .doUpdate()
        .set(STREAM_NAME_BEFORE.STREAM_ID, stream)
        .set(STREAM_NAME_BEFORE.MOVED, moved)
        .execute();
  }

  /** All that led to one stream leads to another, to which its runs move. */
  void handOn(long from, long to) {
    dsl.update(STREAM_NAME_BEFORE)
        .set(STREAM_NAME_BEFORE.STREAM_ID, to)
        .set(STREAM_NAME_BEFORE.MOVED, true)
        .where(STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.STREAM_ID.eq(from))
        .execute();
  }

  /** The name leads nowhere any more; false when it did not. */
  boolean forget(String name) {
    return dsl.deleteFrom(STREAM_NAME_BEFORE)
            .where(STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.NAME.eq(name))
            .execute()
        > 0;
  }
}
