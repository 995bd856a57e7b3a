package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTACHMENT;
import static org.vinecellar.store.generated.Tables.RESULT;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.runs.AttachmentId;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.store.sql.Blobs;

/** What tests left behind. */
final class AttachmentQueries {
  /** As the pieces were cut when they came; only the last of a blob is smaller. */
  private static final int PIECE = 512 << 10;

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

  void content(long runId, AttachmentId id, long from, long count, Consumer<byte[]> pieces) {
    Long blob =
        dsl.select(ATTACHMENT.BLOB_ID)
            .from(ATTACHMENT)
            .where(is(runId, id))
            .fetchOne(ATTACHMENT.BLOB_ID);
    long left = count;
    int skip = (int) (from % PIECE);
    for (int chunk = (int) (from / PIECE); blob != null && left > 0; chunk++) {
      byte[] bytes = Blobs.piece(dsl, projectId, blob, chunk);
      if (bytes == null) {
        return;
      }
      int end = (int) Math.min(bytes.length, skip + left);
      if (skip < end) {
        pieces.accept(
            skip == 0 && end == bytes.length ? bytes : Arrays.copyOfRange(bytes, skip, end));
        left -= end - skip;
      }
      skip = 0;
    }
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
