package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.vinecellar.store.TestUploads.suite;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.Future;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunSummary;

class EditsTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final EditStore.Hand LEAD = new EditStore.Hand("lead", NOW);
  private static final String STREAM = "fares/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();

  private TestUploads uploads;

  @BeforeEach
  void freshProject() {
    uploads = TestUploads.inNewProject(stores, NOW);
  }

  private RunSummary run(int number) {
    return stores.runs().run(uploads.project(), STREAM, number).orElseThrow();
  }

  private ResultRow row(int number, String name) {
    return stores
        .runs()
        .results(uploads.project(), run(number).id(), ResultQuery.first(100))
        .stream()
        .filter(row -> row.test().name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private ResultDetail detail(int number, ResultId id) {
    return stores.runs().result(uploads.project(), run(number), id).orElseThrow();
  }

  /** Of that version with the labels that hold now. */
  private String tag(Subject subject, int version) {
    Note now = stores.edits().note(uploads.project(), subject).orElseThrow();
    return new Note(now.text(), version).tag();
  }

  private Note write(Subject subject, int seen, String description, Map<String, String> labels) {
    NoteText text = new NoteText(description, labels, List.of("smoke"));
    return stores.edits().write(uploads.project(), subject, tag(subject, seen), text, LEAD);
  }

  private void overrule(int number, String name, @Nullable Outcome outcome) {
    ResultRow row = row(number, name);
    stores
        .edits()
        .overrule(
            uploads.project(),
            run(number).id(),
            row.id(),
            row.outcome(),
            outcome,
            "the quay was closed",
            LEAD);
  }

  private static void refused(ProblemCode code, ThrowingCallable call) {
    assertThatThrownBy(call)
        .isInstanceOfSatisfying(CellarException.class, e -> assertThat(e.code()).isEqualTo(code));
  }

  @Test
  void aLabelSetByHandStandsWhateverLaterPartsTell() {
    uploads.sendWith(STREAM, "k", Map.of("team", "fares", "env", "stagin"), suite("S", "a:P"));
    Subject run = Subject.run(run(1).id());
    int version = run(1).version();
    write(run, 0, "Night of the **storm**", Map.of("team", "moorings"));
    assertThat(run(1).version()).as("readers look again").isGreaterThan(version);

    uploads.sendWith(STREAM, "k", Map.of("team", "fares", "os", "linux"), suite("S", "b:P"));

    assertThat(run(1).words().labels()).isEqualTo(Map.of("team", "moorings", "os", "linux"));
    assertThat(run(1).words().description()).isEqualTo("Night of the **storm**");
    assertThat(run(1).words().tags()).containsExactly("smoke");
    assertThat(stores.edits().edits(uploads.project(), run))
        .extracting(Edit::field, Edit::before, Edit::after)
        .containsExactlyInAnyOrder(
            org.assertj.core.groups.Tuple.tuple("description", null, "Night of the **storm**"),
            org.assertj.core.groups.Tuple.tuple("label env", "stagin", null),
            org.assertj.core.groups.Tuple.tuple("label team", "fares", "moorings"),
            org.assertj.core.groups.Tuple.tuple("tags", null, "smoke"));
  }

  @Test
  void aLabelThatAnUploadBroughtMeanwhileIsNotTakenAwayUnseen() {
    uploads.sendWith(STREAM, "k", Map.of("team", "fares"), suite("S", "a:P"));
    Subject run = Subject.run(run(1).id());
    String seen = stores.edits().note(uploads.project(), run).orElseThrow().tag();
    uploads.sendWith(STREAM, "k", Map.of("os", "linux"), suite("S", "b:P"));

    NoteText mine = new NoteText(null, Map.of("team", "moorings"), List.of());
    refused(
        ProblemCode.EDITED_MEANWHILE,
        () -> stores.edits().write(uploads.project(), run, seen, mine, LEAD));
    assertThat(run(1).words().labels()).isEqualTo(Map.of("team", "fares", "os", "linux"));
  }

  /** Version 0 has no row that could be locked, the others have. */
  @ParameterizedTest
  @ValueSource(ints = {0, 1})
  void ofTwoWhoWriteAtOnceOneIsTold(int version) throws Exception {
    uploads.send(STREAM, null, suite("S", "a:P"));
    Subject test = Subject.test(row(1, "a").test().id());
    for (int i = 0; i < version; i++) {
      write(test, i, "before", Map.of());
    }
    List<Callable<String>> writers =
        List.of(
            () -> write(test, version, "mine", Map.of()).text().toString(),
            () -> write(test, version, "yours", Map.of()).text().toString());
    int refused = 0;
    for (Future<String> future : STORE.threads().invokeAll(writers)) {
      try {
        future.get();
      } catch (java.util.concurrent.ExecutionException e) {
        assertThat(e.getCause()).hasMessageContaining("lead changed this after you had read it");
        refused++;
      }
    }
    assertThat(refused).isEqualTo(1);
    Note note = stores.edits().note(uploads.project(), test).orElseThrow();
    assertThat(note.version()).isEqualTo(version + 1);
    assertThat(detail(1, row(1, "a").id()).note()).isEqualTo(note);
  }

  @Test
  void anOverruledOutcomeCountsAndTheReportedOneStaysVisible() {
    uploads.send(STREAM, "1", suite("S", "a:F b:P"));
    uploads.send(STREAM, "2", suite("S", "a:F b:P"));
    assertThat(row(2, "a").change()).isEqualTo(Change.FAILING_AS_BEFORE);

    overrule(1, "a", Outcome.PASSED);
    TestDatabase.work(stores);

    assertThat(run(1).counts().passed()).isEqualTo(2);
    assertThat(run(1).overruled()).isEqualTo(1);
    assertThat(row(2, "a").change()).as("of the run after").isEqualTo(Change.NEW_FAILING);
    ResultDetail detail = detail(1, row(1, "a").id());
    assertThat(detail.row().reported()).isEqualTo(Outcome.FAILED);
    assertThat(detail.tries().get(0).attempt().outcome()).isEqualTo(Outcome.FAILED);
    assertThat(detail.overruling())
        .isNotNull()
        .satisfies(
            o -> {
              assertThat(o.reason()).isEqualTo("the quay was closed");
              assertThat(o.by()).isEqualTo("lead");
            });

    overrule(1, "a", null);

    assertThat(run(1).overruled()).isZero();
    assertThat(run(1).counts().failed()).isEqualTo(1);
    TestDatabase.work(stores);
    assertThat(row(2, "a").change()).isEqualTo(Change.FAILING_AS_BEFORE);
    assertThat(stores.edits().edits(uploads.project(), Subject.run(run(1).id())))
        .extracting(Edit::after)
        .containsExactly("failed", "passed");
  }

  @Test
  void aLaterTryEndsWhatWasSet() {
    uploads.send(STREAM, "1", suite("S", "a:F"));
    overrule(1, "a", Outcome.SKIPPED);
    uploads.send(STREAM, "1", suite("S", "a:P b:P"));

    assertThat(row(1, "a").outcome()).isEqualTo(Outcome.PASSED);
    assertThat(row(1, "a").reported()).isNull();
    assertThat(run(1).overruled()).isZero();
    refused(
        ProblemCode.INVALID_VALUE,
        () ->
            stores
                .edits()
                .overrule(
                    uploads.project(),
                    run(1).id(),
                    new ResultId(1, 0),
                    Outcome.SKIPPED,
                    Outcome.PASSED,
                    "r",
                    LEAD));
  }

  @Test
  void earlierTriesAreAsTheyWereReported() {
    uploads.send(STREAM, "1", suite("S", "a:P"));
    overrule(1, "a", Outcome.ERRORED);
    uploads.send(STREAM, "1", suite("S", "a:P b:P"));

    assertThat(detail(1, row(1, "a").id()).tries())
        .extracting(one -> one.attempt().outcome())
        .containsExactly(Outcome.PASSED, Outcome.PASSED);
    overrule(1, "a", Outcome.FAILED);
    assertThat(detail(1, row(1, "a").id()).tries())
        .as("also when the try that stands is overruled")
        .extracting(one -> one.attempt().outcome())
        .containsExactly(Outcome.PASSED, Outcome.PASSED);
  }

  @Test
  void whatDoesNotFitIsRefused() {
    uploads.send(STREAM, null, suite("S", "a:F"));
    long run = run(1).id();
    EditStore edits = stores.edits();
    int foreign = TestUploads.inNewProject(stores, NOW).project();
    ResultId a = row(1, "a").id();

    refused(
        ProblemCode.EDITED_MEANWHILE,
        () ->
            edits.overrule(uploads.project(), run, a, Outcome.PASSED, Outcome.ERRORED, "r", LEAD));
    refused(
        ProblemCode.INVALID_VALUE,
        () -> edits.overrule(uploads.project(), run, a, Outcome.FAILED, null, "r", LEAD));
    refused(
        ProblemCode.NOT_FOUND,
        () -> edits.overrule(foreign, run, a, Outcome.FAILED, Outcome.PASSED, "r", LEAD));
    refused(
        ProblemCode.NOT_FOUND,
        () ->
            edits.write(
                foreign, Subject.test(row(1, "a").test().id()), "0-0", NoteText.EMPTY, LEAD));
    assertThat(edits.note(foreign, Subject.run(run))).isEmpty();
    assertThat(run(1).overruled()).isZero();
  }
}
