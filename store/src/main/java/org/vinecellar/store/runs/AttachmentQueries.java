package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTACHMENT;
import static org.vinecellar.store.generated.Tables.BLOB_CHUNK;

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

  /** Those of a result, by attempt. */
  Map<Integer, List<KeptAttachment>> ofResult(long runId, int part, int ordinal) {
    return dsl
        .selectFrom(ATTACHMENT)
        .where(
            ATTACHMENT.PROJECT_ID.eq(projectId),
            ATTACHMENT.RUN_ID.eq(runId),
            ATTACHMENT.PART_NO.eq(part),
            ATTACHMENT.ORDINAL.eq(ordinal))
        .orderBy(ATTACHMENT.ATTEMPT_NO, ATTACHMENT.ATTACHMENT_NO)
        .fetch()
        .stream()
        .map(AttachmentQueries::attachment)
        .collect(Collectors.groupingBy(attachment -> attachment.id().attempt()));
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
      byte[] bytes =
          dsl.select(BLOB_CHUNK.CONTENT)
              .from(BLOB_CHUNK)
              .where(
                  BLOB_CHUNK.PROJECT_ID.eq(projectId),
                  BLOB_CHUNK.BLOB_ID.eq(blob),
                  BLOB_CHUNK.CHUNK_NO.eq(chunk))
              .fetchOne(BLOB_CHUNK.CONTENT);
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
