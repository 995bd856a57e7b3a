package org.vinecellar.store.ingest;

import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.OffsetDateTime;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.ingest.RunChoice;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;

/** The runs that a key means, as {@link RunChoice} asks for them. */
final class RunsOfKey {
  /** Of a key that is used night after night, those around the time of the part. */
  private static final int NEAREST = 20;

  private final DSLContext dsl;
  private final int projectId;
  private final String contentHash;
  private final RunChoice.Coming part;

  /** For a part that comes. */
  RunsOfKey(DSLContext dsl, int projectId, String contentHash, RunChoice.Coming part) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.contentHash = contentHash;
    this.part = part;
  }

  /** Those nearest to the part in time. */
  List<RunChoice.Known> of(UploadRequest request, String runKey) {
    Condition key =
        RUN.PROJECT_ID
            .eq(projectId)
            .and(StreamNames.is(projectId, request.target().stream()))
            .and(RUN.RUN_KEY.eq(runKey));
    var near =
        DSL.select(RUN.ID)
            .from(RUN)
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(key)
            .orderBy(away())
            .limit(NEAREST);
    return query().where(RUN.PROJECT_ID.eq(projectId), RUN.ID.in(near)).fetch(this::known);
  }

  /** Other runs of the key that a run has, near the part in time. */
  List<RunChoice.Known> beside(long runId) {
    var one = RUN.as("one");
    return query()
        .where(
            RUN.PROJECT_ID.eq(projectId),
            DSL.row(RUN.STREAM_ID, RUN.RUN_KEY)
                .eq(
                    DSL.select(one.STREAM_ID, one.RUN_KEY)
                        .from(one)
                        .where(one.PROJECT_ID.eq(projectId), one.ID.eq(runId))),
            RUN.ID.ne(runId),
            RUN.NUMBER.isNotNull())
        .orderBy(away())
        .limit(NEAREST)
        .fetch(this::known);
  }

  private Field<Double> away() {
    OffsetDateTime when = Sql.utc(part.when());
    return DSL.abs(
        DSL.field("extract(epoch from {0} - {1})", Double.class, RUN.STARTED_AT, DSL.val(when)));
  }

  /** One run; null when it is not there any more. */
  RunChoice.@Nullable Known of(long runId) {
    return query().where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(runId)).fetchOne(this::known);
  }

  private org.jooq.SelectJoinStep<?> query() {
    return dsl.select(
            RUN.ID,
            RUN.NUMBER,
            RUN.STARTED_AT,
            RUN.CHANGED_AT,
            RUN.IS_OPEN,
            RUN.CLOSED_AT,
            RUN.COMMIT_ID,
            BUILT)
        .select(sameBuild(), sameContent())
        .from(RUN);
  }

  private static final Field<Boolean> BUILT =
      DSL.field(DSL.exists(part(PART.BUILD_URL.isNotNull()))).as("built");

  private static org.jooq.Select<?> part(Condition which) {
    return DSL.selectOne()
        .from(PART)
        .where(PART.PROJECT_ID.eq(RUN.PROJECT_ID), PART.RUN_ID.eq(RUN.ID), which);
  }

  private Field<Boolean> sameBuild() {
    String url = part.of().buildUrl();
    return (url == null
            ? DSL.field(DSL.falseCondition())
            : DSL.field(DSL.exists(part(PART.BUILD_URL.eq(url)))))
        .as("same_build");
  }

  private Field<Boolean> sameContent() {
    return DSL.field(DSL.exists(part(PART.CONTENT_HASH.eq(contentHash)))).as("same_content");
  }

  private RunChoice.Known known(Record row) {
    OffsetDateTime closed = row.get(RUN.IS_OPEN) ? null : row.get(RUN.CLOSED_AT);
    return new RunChoice.Known(
        row.get(RUN.ID),
        row.get(RUN.NUMBER),
        row.get(RUN.STARTED_AT).toInstant(),
        row.get(RUN.CHANGED_AT).toInstant(),
        closed == null ? null : closed.toInstant(),
        row.get(RUN.COMMIT_ID),
        row.get("built", Boolean.class),
        row.get("same_build", Boolean.class),
        row.get("same_content", Boolean.class));
  }
}
