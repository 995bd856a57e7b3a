package org.vinecellar.store.streams;

import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.STREAM_NAME_BEFORE;

import java.time.Instant;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.store.sql.Sql;

/** Finds streams by the names that they have, and then by those that they had. */
public final class StreamNames {
  /**
   * As often as somebody may take away what is just being found, or be quicker: each time something
   * else went on.
   */
  private static final int TRIES = 100;

  private StreamNames() {}

  /** A row of a stream whose name this is, or was before. */
  public static Condition is(int projectId, String name) {
    return STREAM
        .PROJECT_ID
        .eq(projectId)
        .and(STREAM.ID.eq(id(projectId, name, DSL.noCondition())));
  }

  /** The same, where the runs still have the numbers that they had under that name. */
  public static Condition isWithItsNumbers(int projectId, String name) {
    return STREAM
        .PROJECT_ID
        .eq(projectId)
        .and(STREAM.ID.eq(id(projectId, name, STREAM_NAME_BEFORE.MOVED.isFalse())));
  }

  private static Field<Long> id(int projectId, String name, Condition before) {
    var called = STREAM.as("called");
    return DSL.coalesce(
        DSL.field(
            DSL.select(called.ID)
                .from(called)
                .where(called.PROJECT_ID.eq(projectId), called.NAME.eq(name))),
        DSL.field(
            DSL.select(STREAM_NAME_BEFORE.STREAM_ID)
                .from(STREAM_NAME_BEFORE)
                .where(
                    STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId),
                    STREAM_NAME_BEFORE.NAME.eq(name),
                    before)));
  }

  /** The stream of a name, which nobody renames or takes away before the transaction ends. */
  public static @Nullable Long held(DSLContext dsl, int projectId, String name) {
    Long id =
        dsl.select(STREAM.ID)
            .from(STREAM)
            .where(STREAM.PROJECT_ID.eq(projectId), STREAM.NAME.eq(name))
            .forKeyShare()
            .fetchOne(STREAM.ID);
    // A statement of its own: who renames may have been waited for.
    return id != null ? id : heldByNameBefore(dsl, projectId, name);
  }

  private static @Nullable Long heldByNameBefore(DSLContext dsl, int projectId, String name) {
    return dsl.select(STREAM.ID)
        .from(STREAM_NAME_BEFORE)
        .join(STREAM)
        .on(
            STREAM.PROJECT_ID.eq(STREAM_NAME_BEFORE.PROJECT_ID),
            STREAM.ID.eq(STREAM_NAME_BEFORE.STREAM_ID))
        .where(STREAM_NAME_BEFORE.PROJECT_ID.eq(projectId), STREAM_NAME_BEFORE.NAME.eq(name))
        .forKeyShare()
        .of(STREAM)
        .fetchOne(STREAM.ID);
  }

  /** The same; where there is none, it begins now. */
  public static long heldOrNew(DSLContext dsl, int projectId, String name, Instant now) {
    for (int tries = 0; tries < TRIES; tries++) {
      Long known = held(dsl, projectId, name);
      if (known != null) {
        return known;
      }
      Long made =
          dsl.insertInto(STREAM)
              .set(STREAM.PROJECT_ID, projectId)
              .set(STREAM.NAME, name)
              .set(STREAM.CREATED_AT, Sql.utc(now))
              .set(STREAM.NEXT_RUN_NUMBER, 1)
              .onConflictDoNothing()
              .returningResult(STREAM.ID)
              .fetchOne(STREAM.ID);
      Long before = made == null ? null : heldByNameBefore(dsl, projectId, name);
      if (made != null && before == null) {
        return made;
      }
      if (before != null) {
        // The stream of that name was renamed while this one was made.
        dsl.deleteFrom(STREAM).where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(made)).execute();
        return before;
      }
    }
    throw new IllegalStateException("a stream vanishes as often as it is made");
  }

  /** What a stream is called now, or the one that it becomes. */
  public static String of(DSLContext dsl, int projectId, long stream) {
    Record row =
        dsl.select(STREAM.NAME, STREAM.BECOMES_ID)
            .from(STREAM)
            .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(stream))
            .fetchSingle();
    Long becomes = row.get(STREAM.BECOMES_ID);
    return becomes == null ? row.get(STREAM.NAME) : of(dsl, projectId, becomes);
  }
}
