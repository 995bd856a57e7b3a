package org.vinecellar.store.runs;

import static org.vinecellar.store.generated.Tables.EDIT;
import static org.vinecellar.store.generated.Tables.NOTE;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.PART_FILE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_LEARNED;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.WORK;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jooq.SelectConditionStep;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.runs.Comparison;
import org.vinecellar.core.runs.FindQuery;
import org.vinecellar.core.runs.FoundPage;
import org.vinecellar.core.runs.Job;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.Part;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunQuery;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.RunSummary;
import org.vinecellar.core.runs.StreamSettings;
import org.vinecellar.core.runs.StreamSummary;
import org.vinecellar.core.runs.SuiteNode;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.core.runs.TestRow;
import org.vinecellar.store.blobs.BlobStore;
import org.vinecellar.store.edits.NoteRows;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.filters.Looks;
import org.vinecellar.store.ledger.CountColumns;
import org.vinecellar.store.ledger.RunOrder;
import org.vinecellar.store.ledger.RunRows;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.streams.StreamNames;
import org.vinecellar.store.work.WorkKind;

/** Streams, runs and results in PostgreSQL. Thread-safe. */
public final class PgRunStore implements RunStore {
  private static final org.vinecellar.store.generated.tables.Run BEFORE = RUN.as("before");
  private static final org.vinecellar.store.generated.tables.Run AFTER = RUN.as("after");
  private static final Field<Integer> NEXT =
      DSL.field(
              DSL.select(DSL.min(AFTER.NUMBER))
                  .from(AFTER)
                  .where(AFTER.PROJECT_ID.eq(RUN.PROJECT_ID), AFTER.PREVIOUS_ID.eq(RUN.ID)))
          .as("next_number");

  private static final Field<Boolean> LEARNED =
      DSL.field(
              DSL.exists(
                      DSL.selectOne()
                          .from(RUN_LEARNED)
                          .where(
                              RUN_LEARNED.RUN_ID.eq(RUN.ID),
                              RUN_LEARNED.CHANGED_AT.eq(RUN.CHANGED_AT)))
                  // What it tells of its tests may tell that some were renamed.
                  .and(
                      DSL.notExists(
                          DSL.selectOne()
                              .from(WORK)
                              .where(
                                  WORK.KIND.eq(DSL.inline(WorkKind.COMPARE_RUN.name())),
                                  WORK.SUBJECT_ID.eq(RUN.ID),
                                  WORK.TRIES.eq(DSL.inline(0))))))
          .as("learned");

  private final Sql sql;
  private final BlobStore blobs;
  private final Looks looks;

  /**
   * @param looks whoever asks by a filter is one of them
   */
  public PgRunStore(Sql sql, BlobStore blobs, Looks looks) {
    this.sql = sql;
    this.blobs = blobs;
    this.looks = looks;
  }

  @Override
  public List<StreamSummary> streams(int projectId) {
    return sql.with(dsl -> new StreamQueries(dsl, projectId).all());
  }

  @Override
  public Optional<StreamSummary> stream(int projectId, String name) {
    return sql.with(dsl -> new StreamQueries(dsl, projectId).named(name));
  }

  @Override
  public List<RunSummary> runs(int projectId, RunQuery query) {
    String stream = query.stream();
    RunQuery.Cursor after = query.after().orElse(null);
    return looks.wide(
        query.filter(),
        dsl -> {
          SelectConditionStep<Record> runs =
              select(dsl, projectId).and(Conditions.ofRuns(projectId, query.filter()));
          return (stream == null
                  ? runs.and(startedBefore(after)).orderBy(RUN.STARTED_AT.desc(), RUN.ID.desc())
                  : runs.and(StreamNames.is(projectId, stream))
                      .and(startedBefore(after))
                      .orderBy(RUN.STARTED_AT.desc(), RUN.ID.desc()))
              .limit(query.limit())
              .fetch(PgRunStore::summary);
        });
  }

  private static Condition startedBefore(RunQuery.@Nullable Cursor after) {
    return after == null
        ? DSL.noCondition()
        : DSL.row(RUN.STARTED_AT, RUN.ID).lt(Sql.utc(after.started()), after.id());
  }

  @Override
  public List<TestRow> tests(int projectId, TestQuery query) {
    return looks.wide(query.filter(), dsl -> new TestQueries(dsl, projectId).page(query));
  }

  @Override
  public Optional<RunSummary> run(int projectId, String stream, int number) {
    return sql.with(
        dsl ->
            select(dsl, projectId)
                .and(StreamNames.isWithItsNumbers(projectId, stream))
                .and(RUN.NUMBER.eq(number))
                .fetchOptional(PgRunStore::summary)
                .or(() -> moved(dsl, projectId, stream + "#" + number)));
  }

  /** The run that was once called so, wherever it is now. */
  private static Optional<RunSummary> moved(DSLContext dsl, int projectId, String name) {
    return select(dsl, projectId)
        .and(
            RUN.ID.eq(
                DSL.select(EDIT.SUBJECT_ID)
                    .from(EDIT)
                    .where(
                        EDIT.PROJECT_ID.eq(projectId),
                        EDIT.FIELD.eq(DSL.inline("stream")),
                        EDIT.TEXT_BEFORE.eq(name))
                    .orderBy(EDIT.ID.desc())
                    .limit(1)))
        .fetchOptional(PgRunStore::summary);
  }

  @Override
  public Optional<RunSummary> run(int projectId, long runId) {
    return sql.with(
        dsl -> select(dsl, projectId).and(RUN.ID.eq(runId)).fetchOptional(PgRunStore::summary));
  }

  @Override
  public Optional<StreamSettings> settings(int projectId, String stream) {
    return sql.with(
        dsl ->
            dsl.select(
                    STREAM.SILENCE_SECONDS,
                    STREAM.BUNDLE_DAYS,
                    STREAM.BUNDLE_MEGABYTES,
                    STREAM.MAIN_BRANCH)
                .from(STREAM)
                .where(StreamNames.is(projectId, stream))
                .fetchOptional(
                    row ->
                        new StreamSettings(
                            row.value1() == null ? null : Duration.ofSeconds(row.value1()),
                            row.value2(),
                            row.value3(),
                            row.value4())));
  }

  @Override
  public boolean setSettings(int projectId, String stream, StreamSettings settings, Instant now) {
    Duration silence = settings.silence();
    return sql.transaction(
        dsl -> {
          Record known =
              dsl.select(STREAM.ID, STREAM.MAIN_BRANCH)
                  .from(STREAM)
                  .where(StreamNames.is(projectId, stream))
                  .forNoKeyUpdate()
                  .fetchOne();
          if (known == null) {
            return false;
          }
          int id = Math.toIntExact(known.get(STREAM.ID));
          dsl.update(STREAM)
              .set(
                  STREAM.SILENCE_SECONDS,
                  silence == null ? null : Math.toIntExact(silence.toSeconds()))
              .set(STREAM.BUNDLE_DAYS, settings.bundleDays())
              .set(STREAM.BUNDLE_MEGABYTES, settings.bundleMegabytes())
              .set(STREAM.MAIN_BRANCH, settings.mainBranch())
              .where(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(known.get(STREAM.ID)))
              .execute();
          if (!Objects.equals(known.get(STREAM.MAIN_BRANCH), settings.mainBranch())) {
            new RunOrder(dsl, projectId, id).mainBranchChanged(now);
          }
          return true;
        });
  }

  static SelectConditionStep<Record> select(DSLContext dsl, int projectId) {
    return dsl.select(
            RUN.asterisk(),
            STREAM.NAME,
            STREAM.NEXT_RUN_NUMBER,
            STREAM.RUNS,
            BEFORE.NUMBER,
            BEFORE.BRANCH)
        .select(NEXT, LEARNED)
        .select(NOTE.DESCRIPTION, NOTE.LABELS, NOTE.TAGS)
        .from(RUN)
        .join(STREAM)
        .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
        .leftJoin(BEFORE)
        .on(BEFORE.PROJECT_ID.eq(RUN.PROJECT_ID), BEFORE.ID.eq(RUN.PREVIOUS_ID))
        .leftJoin(NOTE)
        .on(
            NOTE.PROJECT_ID.eq(RUN.PROJECT_ID),
            NOTE.SUBJECT.eq((short) Subject.Kind.RUN.code()),
            NOTE.SUBJECT_ID.eq(RUN.ID))
        .where(RUN.PROJECT_ID.eq(projectId), RUN.NUMBER.isNotNull(), STREAM.DELETED_AT.isNull());
  }

  static RunSummary summary(Record row) {
    return new RunSummary(
        row.get(RUN.ID),
        row.get(STREAM.NAME),
        row.get(RUN.NUMBER),
        row.get(RUN.VERSION),
        new RunSummary.Times(
            row.get(RUN.CREATED_AT).toInstant(),
            row.get(RUN.STARTED_AT).toInstant(),
            row.get(RUN.CHANGED_AT).toInstant(),
            Sql.instantOrNull(row.get(RUN.CLOSED_AT)),
            row.get(RUN.CLOSED_BY)),
        new Origin(row.get(RUN.COMMIT_ID), row.get(RUN.BRANCH), row.get(RUN.BUILD_URL)),
        new RunSummary.Words(
            row.get(NOTE.DESCRIPTION),
            NoteRows.labels(row).over(Json.map(row.get(RUN.LABELS))),
            NoteRows.tags(row)),
        CountColumns.OF_RUN.of(row),
        row.get(RUN.OVERRULED),
        row.get(RUN.DURATION_US),
        new RunSummary.Neighbours(row.get(BEFORE.NUMBER), row.get(BEFORE.BRANCH), row.get(NEXT)),
        RunRows.changes(row),
        row.get(RUN.EXPLAINED),
        row.get(LEARNED));
  }

  @Override
  public List<Part> parts(int projectId, long runId) {
    return sql.with(
        dsl -> {
          Map<Integer, List<Part.PartFile>> files =
              dsl
                  .selectFrom(PART_FILE)
                  .where(PART_FILE.PROJECT_ID.eq(projectId), PART_FILE.RUN_ID.eq(runId))
                  .orderBy(PART_FILE.PART_NO, PART_FILE.FILE_NO)
                  .fetch()
                  .stream()
                  .collect(
                      Collectors.groupingBy(
                          row -> row.get(PART_FILE.PART_NO),
                          Collectors.mapping(PgRunStore::file, Collectors.toList())));
          Map<Integer, List<KeptAttachment>> attachments =
              new AttachmentQueries(dsl, projectId).ofParts(runId);
          return dsl.selectFrom(PART)
              .where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(runId))
              .orderBy(PART.PART_NO)
              .fetch(
                  row ->
                      part(
                          row,
                          files.getOrDefault(row.get(PART.PART_NO), List.of()),
                          attachments.getOrDefault(row.get(PART.PART_NO), List.of())));
        });
  }

  private static Part.PartFile file(Record row) {
    return new Part.PartFile(
        row.get(PART_FILE.NAME), row.get(PART_FILE.FORMAT), Json.list(row.get(PART_FILE.PROBLEMS)));
  }

  private static List<RunningNow> running(@Nullable JSONB column) {
    if (column == null) {
      return List.of();
    }
    List<RunningNow> running = new ArrayList<>();
    for (JsonNode test : Json.read(column.data(), new TypeReference<JsonNode>() {})) {
      List<String> suite = new ArrayList<>();
      test.path("suite").forEach(name -> suite.add(name.asText()));
      String since = test.path("since").asText("");
      running.add(
          new RunningNow(
              suite, test.path("name").asText(), since.isEmpty() ? null : Instant.parse(since)));
    }
    return running;
  }

  private static @Nullable Job job(@Nullable JSONB column) {
    return column == null ? null : Json.read(column.data(), new TypeReference<Job>() {});
  }

  private static Part part(
      Record row, List<Part.PartFile> files, List<KeptAttachment> attachments) {
    return new Part(
        row.get(PART.PART_NO),
        row.get(PART.NAME),
        Json.map(row.get(PART.VARIANT)),
        new Part.Times(
            row.get(PART.RECEIVED_AT).toInstant(),
            Sql.instantOrNull(row.get(PART.STARTED_AT)),
            Sql.instantOrNull(row.get(PART.ENDED_AT))),
        new Part.Progress(
            row.get(PART.BROKEN_OFF),
            row.get(PART.LIVE_BATCH) != null && !row.get(PART.BROKEN_OFF),
            running(row.get(PART.RUNNING))),
        row.get(PART.BUILD_URL),
        job(row.get(PART.JOB)),
        Json.map(row.get(PART.ENVIRONMENT)),
        CountColumns.OF_PART.of(row),
        row.get(PART.DURATION_US),
        files,
        attachments);
  }

  @Override
  public List<ResultRow> results(int projectId, long runId, ResultQuery query) {
    return looks.intoRun(
        query.filter(), dsl -> new ResultQueries(dsl, projectId).page(runId, query));
  }

  @Override
  public FoundPage find(int projectId, FindQuery query) {
    return looks.wide(query.filter(), dsl -> new FindQueries(dsl, projectId).page(query));
  }

  @Override
  public FoundPage.Count count(int projectId, Thing thing, Criterion filter) {
    return looks.wide(
        filter,
        dsl ->
            switch (thing) {
              case RUN -> new FoundPage.Count(runs(dsl, projectId, filter), true);
              case RESULT -> new FindQueries(dsl, projectId).count(filter);
              case TEST -> new FoundPage.Count(new TestQueries(dsl, projectId).count(filter), true);
              default -> throw new IllegalArgumentException("not counted: " + thing);
            });
  }

  private static long runs(DSLContext dsl, int projectId, Criterion filter) {
    return dsl.fetchCount(
        DSL.selectOne()
            .from(RUN)
            .join(STREAM)
            .on(STREAM.PROJECT_ID.eq(RUN.PROJECT_ID), STREAM.ID.eq(RUN.STREAM_ID))
            .where(
                RUN.PROJECT_ID.eq(projectId),
                RUN.NUMBER.isNotNull(),
                STREAM.DELETED_AT.isNull(),
                Conditions.ofRuns(projectId, filter)));
  }

  @Override
  public Comparison compare(int projectId, long runId, long with, int limit) {
    return looks.heavy(dsl -> new CompareQueries(dsl, projectId).compare(runId, with, limit));
  }

  @Override
  public List<KeptTest> gone(int projectId, long runId, Criterion filter, int limit) {
    return looks.intoRun(
        filter, dsl -> new ResultQueries(dsl, projectId).gone(runId, filter, limit));
  }

  @Override
  public List<String> values(
      int projectId, Attribute attribute, @Nullable String key, String begun, int limit) {
    return looks.values(
        dsl -> new ValueQueries(dsl, projectId).values(attribute, key, begun, limit));
  }

  @Override
  public List<String> keys(int projectId, Attribute attribute, String begun, int limit) {
    return looks.values(dsl -> new ValueQueries(dsl, projectId).keys(attribute, begun, limit));
  }

  @Override
  public Optional<ResultDetail> result(int projectId, RunSummary run, ResultId id) {
    return sql.with(dsl -> new DetailQueries(dsl, projectId).detail(run, id));
  }

  @Override
  public List<SuiteNode> suites(
      int projectId, long runId, @Nullable Long parentId, Criterion filter) {
    return looks.intoRun(
        filter, dsl -> new SuiteQueries(dsl, projectId).inside(runId, parentId, filter));
  }

  @Override
  public Optional<Content> raw(int projectId, long runId, int part, int file) {
    return sql.with(
        dsl ->
            dsl.selectFrom(PART_FILE)
                .where(
                    PART_FILE.PROJECT_ID.eq(projectId),
                    PART_FILE.RUN_ID.eq(runId),
                    PART_FILE.PART_NO.eq(part),
                    PART_FILE.FILE_NO.eq(file))
                .fetchOptional(
                    row ->
                        blobs.content(
                            projectId,
                            row.get(PART_FILE.BLOB_ID),
                            row.get(PART_FILE.SIZE_PACKED))));
  }

  @Override
  public Optional<KeptAttachment> attachment(int projectId, long runId, AttachmentId id) {
    return sql.with(dsl -> new AttachmentQueries(dsl, projectId).find(runId, id));
  }

  @Override
  public Optional<Content> content(int projectId, long runId, AttachmentId id) {
    return sql.with(dsl -> new AttachmentQueries(dsl, projectId).content(blobs, runId, id));
  }
}
