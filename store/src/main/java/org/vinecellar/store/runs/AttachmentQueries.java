package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.ATTACHMENT;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.RESULT;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.results.Packed;

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
        .on(ATTACHMENT.RUN_ID.eq(RESULT.RUN_ID), ATTACHMENT.PLACE.eq(RESULT.PLACE))
        .where(RESULT.RUN_ID.eq(runId), RESULT.TEST_ID.eq(testId))
        .orderBy(ATTACHMENT.ATTEMPT_NO, ATTACHMENT.ATTACHMENT_NO)
        .fetch(AttachmentQueries::attachment);
  }

  /** Those that no result claims, by part. */
  Map<Integer, List<KeptAttachment>> ofParts(long runId) {
    List<Integer> places =
        dsl.select(PART.PART_NO)
            .from(PART)
            .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId))
            .fetch(row -> Packed.placeOfPart(row.value1()));
    return dsl
        .selectFrom(ATTACHMENT)
        .where(ATTACHMENT.RUN_ID.eq(runId), ATTACHMENT.PLACE.in(places))
        .orderBy(ATTACHMENT.PLACE, ATTACHMENT.ATTACHMENT_NO)
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

  Optional<Content> content(BlobStore blobs, long runId, AttachmentId id) {
    return dsl.selectFrom(ATTACHMENT)
        .where(is(runId, id), ATTACHMENT.BLOB_ID.isNotNull())
        .fetchOptional(
            row ->
                blobs.content(
                    projectId, row.get(ATTACHMENT.BLOB_ID), row.get(ATTACHMENT.SIZE_BYTES)));
  }

  private Condition is(long runId, AttachmentId id) {
    boolean ofPart = id.ordinal() == AttachmentId.OF_PART;
    ResultId result = new ResultId(id.part(), ofPart ? 0 : id.ordinal());
    if (!Packed.isPlace(result)) {
      return DSL.falseCondition();
    }
    return ATTACHMENT
        .RUN_ID
        .eq(runId)
        .and(ATTACHMENT.PLACE.eq(ofPart ? Packed.placeOfPart(id.part()) : Packed.place(result)))
        .and(ATTACHMENT.ATTEMPT_NO.eq(id.attempt()))
        .and(ATTACHMENT.ATTACHMENT_NO.eq(id.number()));
  }

  private static KeptAttachment attachment(Record row) {
    int place = row.get(ATTACHMENT.PLACE);
    return new KeptAttachment(
        new AttachmentId(
            Packed.part(place),
            Packed.isOfPart(place) ? AttachmentId.OF_PART : Packed.id(place).ordinal(),
            row.get(ATTACHMENT.ATTEMPT_NO),
            row.get(ATTACHMENT.ATTACHMENT_NO)),
        row.get(ATTACHMENT.NAME),
        row.get(ATTACHMENT.MEDIA_TYPE),
        row.get(ATTACHMENT.SIZE_BYTES),
        row.get(ATTACHMENT.BLOB_ID) != null);
  }
}
