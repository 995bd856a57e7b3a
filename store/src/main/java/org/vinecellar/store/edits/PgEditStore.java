package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.EDIT;
import static org.vinecellar.store.generated.Tables.NOTE;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TEST_TAG;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Differences;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.LabelEdits;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Notes and set outcomes in PostgreSQL. Thread-safe. */
public final class PgEditStore implements EditStore {
  private static final int MOST = 200;

  private final Sql sql;

  /** On that database. */
  public PgEditStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public Optional<Note> note(int projectId, Subject subject) {
    return sql.with(
        dsl ->
            reported(dsl, projectId, subject, false)
                .map(labels -> NoteRows.note(NoteRows.find(dsl, projectId, subject), labels)));
  }

  @Override
  public Note write(int projectId, Subject subject, String seen, NoteText text, Hand hand) {
    return sql.transaction(
        dsl -> {
          Map<String, String> reported =
              reported(dsl, projectId, subject, true)
                  .orElseThrow(
                      () -> notFound(subject.kind().name().toLowerCase(Locale.ROOT), subject.id()));
          Record row =
              dsl.selectFrom(NOTE).where(NoteRows.is(projectId, subject)).forUpdate().fetchOne();
          Note before = NoteRows.note(row, reported);
          if (!before.tag().equals(seen)) {
            // Of the same version, only the labels can differ.
            throw seen.startsWith(before.version() + "-")
                ? EditRows.meanwhile("an upload with labels")
                : editedMeanwhile(dsl, projectId, subject);
          }
          List<Edit.Difference> differences = Differences.between(before.text(), text);
          if (differences.isEmpty()) {
            return before;
          }
          if (!keep(
              dsl,
              projectId,
              subject,
              before.version(),
              LabelEdits.from(reported, text.labels()),
              text)) {
            throw editedMeanwhile(dsl, projectId, subject);
          }
          EditRows edits = new EditRows(dsl, projectId, subject, hand);
          differences.forEach(one -> edits.add(one, null, null));
          if (subject.kind() == Subject.Kind.RUN) {
            changed(dsl, projectId, subject.id(), hand.now());
          } else {
            tag(dsl, projectId, subject.id(), text.tags());
            FollowingNotes.keep(dsl, projectId);
          }
          return new Note(text, before.version() + 1);
        });
  }

  private static boolean keep(
      DSLContext dsl, int projectId, Subject subject, int seen, LabelEdits labels, NoteText text) {
    if (seen > 0) {
      return dsl.update(NOTE)
              .set(NOTE.VERSION, seen + 1)
              .set(NOTE.DESCRIPTION, text.description())
              .set(NOTE.LABELS, Json.of(labels.byHand()))
              .set(NOTE.TAGS, Json.of(text.tags()))
              .setNull(NOTE.FROM_TEST_ID)
              .where(NoteRows.is(projectId, subject), NOTE.VERSION.eq(seen))
              .execute()
          == 1;
    }
    return dsl.insertInto(NOTE)
            .set(NOTE.PROJECT_ID, projectId)
            .set(NOTE.SUBJECT, (short) subject.kind().code())
            .set(NOTE.SUBJECT_ID, subject.id())
            .set(NOTE.VERSION, 1)
            .set(NOTE.DESCRIPTION, text.description())
            .set(NOTE.LABELS, Json.of(labels.byHand()))
            .set(NOTE.TAGS, Json.of(text.tags()))
            .onConflictDoNothing()
            .execute()
        == 1;
  }

  /** Labels that uploads told; empty when the subject does not exist. */
  private static Optional<Map<String, String>> reported(
      DSLContext dsl, int projectId, Subject subject, boolean lock) {
    if (subject.kind() == Subject.Kind.TEST) {
      boolean there =
          dsl.fetchExists(TEST, TEST.PROJECT_ID.eq(projectId), TEST.ID.eq(subject.id()));
      return there ? Optional.of(Map.of()) : Optional.empty();
    }
    var run =
        dsl.select(RUN.LABELS)
            .from(RUN)
            .where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(subject.id()), RUN.NUMBER.isNotNull());
    return (lock ? run.forUpdate() : run).fetchOptional(row -> Json.map(row.value1()));
  }

  @Override
  public List<Edit> edits(int projectId, Subject subject) {
    return sql.with(
        dsl ->
            EditRows.select(dsl, EditRows.of(projectId, subject))
                .limit(MOST)
                .fetch(EditRows::edit));
  }

  @Override
  public void overrule(
      int projectId,
      long runId,
      ResultId id,
      Outcome seen,
      @Nullable Outcome outcome,
      String reason,
      Hand hand) {
    sql.transaction(
        dsl -> {
          new Overrule(dsl, projectId, runId, id).set(seen, outcome, reason, hand);
          return true;
        });
  }

  /** The tags that people gave a test, as rows. */
  private static void tag(DSLContext dsl, int projectId, long testId, List<String> tags) {
    dsl.deleteFrom(TEST_TAG).where(TEST_TAG.TEST_ID.eq(testId), TEST_TAG.VERSION.eq(0)).execute();
    dsl.execute(
        "insert into test_tag (project_id, test_id, version, tag)"
            + " select distinct ?, ?::int, 0, t.tag from unnest(?) as t(tag)",
        projectId,
        testId,
        tags.toArray(String[]::new));
  }

  /** Readers of the run shall look again. */
  private static void changed(DSLContext dsl, int projectId, long runId, Instant now) {
    RunLedger ledger = RunLedger.open(dsl, projectId, runId);
    if (ledger != null) {
      RunLedger.Settled unused = ledger.labelsChanged().settle(now);
    }
  }

  private static CellarException notFound(String what, long id) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no " + what + " “" + id + "”");
  }

  private static CellarException editedMeanwhile(DSLContext dsl, int projectId, Subject subject) {
    Edit last =
        EditRows.select(dsl, EditRows.of(projectId, subject).and(EDIT.PLACE.isNull()))
            .limit(1)
            .fetchOne(EditRows::edit);
    return EditRows.meanwhile(last == null ? "somebody" : last.by());
  }
}
