package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTACHMENT;
import static org.vinecellar.store.generated.Tables.RESULT;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.runs.AttachmentId;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.store.sql.BlobContent;
import org.vinecellar.store.sql.Sql;

/** What tests left behind. */
final class AttachmentQueries {
  private final DSLContext dsl;
  private final int projectId;

  AttachmentQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** Those of a test, of all its results in the run. */
  List<KeptAttachment> ofTest(long runId, long testId) {
    return dsl.select(ATTACHMENT.asterisk())
        .from(RESULT)
        .join(ATTACHMENT)
        .on(
            ATTACHMENT.PROJECT_ID.eq(RESULT.PROJECT_ID),
            ATTACHMENT.RUN_ID.eq(RESULT.RUN_ID),
            ATTACHMENT.PART_NO.eq(RESULT.PART_NO),
            ATTACHMENT.ORDINAL.eq(RESULT.ORDINAL))
        .where(RESULT.PROJECT_ID.eq(projectId), RESULT.RUN_ID.eq(runId), RESULT.TEST_ID.eq(testId))
        .orderBy(ATTACHMENT.ATTEMPT_NO, ATTACHMENT.ATTACHMENT_NO)
        .fetch(AttachmentQueries::attachment);
  }

  /** Those that no result claims, by part. */
  Map<Integer, List<KeptAttachment>> ofParts(long runId) {
    return dsl
        .selectFrom(ATTACHMENT)
        .where(
            ATTACHMENT.PROJECT_ID.eq(projectId),
            ATTACHMENT.RUN_ID.eq(runId),
            ATTACHMENT.ORDINAL.eq(AttachmentId.OF_PART))
        .orderBy(ATTACHMENT.PART_NO, ATTACHMENT.ATTACHMENT_NO)
        .fetch()
        .stream()
        .map(AttachmentQueries::attachment)
        .collect(Collectors.groupingBy(attachment -> attachment.id().part()));
  }

  Optional<KeptAttachment> find(long runId, AttachmentId id) {
    return dsl.selectFrom(ATTACHMENT)
        .where(is(runId, id))
        .fetchOptional(AttachmentQueries::attachment);
  }

  Optional<Content> content(Sql sql, long runId, AttachmentId id) {
    return dsl.selectFrom(ATTACHMENT)
        .where(is(runId, id), ATTACHMENT.BLOB_ID.isNotNull())
        .fetchOptional(
            row ->
                new BlobContent(
                    sql, projectId, row.get(ATTACHMENT.BLOB_ID), row.get(ATTACHMENT.SIZE_BYTES)));
  }

  private Condition is(long runId, AttachmentId id) {
    return ATTACHMENT
        .PROJECT_ID
        .eq(projectId)
        .and(ATTACHMENT.RUN_ID.eq(runId))
        .and(ATTACHMENT.PART_NO.eq(id.part()))
        .and(ATTACHMENT.ORDINAL.eq(id.ordinal()))
        .and(ATTACHMENT.ATTEMPT_NO.eq((short) id.attempt()))
        .and(ATTACHMENT.ATTACHMENT_NO.eq((short) id.number()));
  }

  private static KeptAttachment attachment(Record row) {
    return new KeptAttachment(
        new AttachmentId(
            row.get(ATTACHMENT.PART_NO),
            row.get(ATTACHMENT.ORDINAL),
            row.get(ATTACHMENT.ATTEMPT_NO),
            row.get(ATTACHMENT.ATTACHMENT_NO)),
        row.get(ATTACHMENT.NAME),
        row.get(ATTACHMENT.MEDIA_TYPE),
        row.get(ATTACHMENT.SIZE_BYTES),
        row.get(ATTACHMENT.BLOB_ID) != null);
  }
}
