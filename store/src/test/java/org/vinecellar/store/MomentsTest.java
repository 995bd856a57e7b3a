package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.groups.Tuple.tuple;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.quarantine.Terms;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.triage.decisions.TriageStore;
import org.vinecellar.core.trust.history.Moment;

/** What happened to a test and what was said of it is told in one line of time, under all names. */
class MomentsTest {
  private static final Instant START = Instant.parse("2026-10-01T02:00:00Z");
  private static final String STREAM = "moments/nightly";
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final TestUploads uploads = TestUploads.inNewProject(stores, night(50));

  private static Instant night(int night) {
    return START.plusSeconds(night * 86_400L);
  }

  private static Hand hand(String name, int night) {
    return new Hand(name, night(night).plusSeconds(3_600));
  }

  private void run(int night, String name, @Nullable String failure) {
    var unused =
        uploads.sendAt(
            night(night),
            STREAM,
            null,
            UploadRequest.PartKey.NONE,
            Origin.UNKNOWN,
            Map.of(),
            "<testsuite name='quay.Fares'><testcase classname='quay.Fares' name='other'/>"
                + "<testcase classname='quay.Fares' name='"
                + name
                + "'>"
                + (failure == null ? "" : "<failure message='" + failure + "'/>")
                + "</testcase><system-out>"
                + night
                + "</system-out></testsuite>");
    TestDatabase.work(stores);
  }

  private ResultRow row(int number, String name) {
    long run = stores.runs().run(uploads.project(), STREAM, number).orElseThrow().id();
    return stores.runs().results(uploads.project(), run, ResultQuery.first(10)).stream()
        .filter(one -> one.test().name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private Note note(long test) {
    return stores.edits().note(uploads.project(), Subject.test(test)).orElseThrow();
  }

  private List<Moment> moments(long test) {
    return stores.trust().moments(uploads.project(), test, STREAM, night(60), 100);
  }

  @Test
  void allOfItUnderAllNames() {
    int project = uploads.project();
    run(0, "rounds", null);
    run(1, "rounds", "off by one");
    run(2, "rounds", "off by one");
    run(3, "rounds", null);
    long old = row(1, "rounds").test().id();
    long second = stores.runs().run(project, STREAM, 2).orElseThrow().id();
    TriageStore.Decided decided =
        stores
            .triage()
            .decide(
                project,
                second,
                row(2, "rounds").id(),
                new TriageStore.Verdict("Product fault", "rounding of halves", false),
                hand("ada", 4));
    stores.triage().undo(project, decided.id(), hand("bo", 5));
    var note =
        stores
            .edits()
            .write(
                project,
                Subject.test(old),
                note(old).tag(),
                new NoteText("asks the till", Map.of(), List.of()),
                hand("cy", 6));
    assertThat(note.text().description()).isEqualTo("asks the till");
    stores
        .edits()
        .overrule(
            project,
            second,
            row(2, "rounds").id(),
            Outcome.FAILED,
            Outcome.SKIPPED,
            "the quay was closed",
            hand("ada", 7));
    var added =
        stores
            .quarantine()
            .add(
                project,
                List.of(old),
                STREAM,
                new Terms("dee", "flips", null, LocalDate.parse("2026-10-20")),
                hand("dee", 8));
    assertThat(added.added()).isOne();
    run(10, "rounds half fares", null);
    long now = row(5, "rounds half fares").test().id();
    TestDatabase.work(stores);
    stores.trust().say(project, STREAM, old, now, true, hand("ada", 11));
    TestDatabase.work(stores);

    List<Moment> moments = moments(now);
    assertThat(moments)
        .extracting(one -> one.kind().name(), Moment::by)
        .containsExactly(
            tuple("RENAMED", "ada"),
            tuple("QUARANTINED", "dee"),
            tuple("OVERRULED", "ada"),
            tuple("NOTED", "cy"),
            tuple("TAKEN_BACK", "bo"),
            tuple("EXPLAINED", "ada"),
            tuple("FAILED", null),
            tuple("TAKEN", null),
            tuple("CAME", null));
    assertThat(moments.get(0).before()).isEqualTo("rounds");
    assertThat(moments.get(0).after()).isEqualTo("rounds half fares");
    assertThat(moments.get(2).where())
        .isEqualTo(new Moment.Where(STREAM, 2, row(2, "rounds").id()));
    assertThat(moments.get(5).what()).isEqualTo("Product fault");
    assertThat(moments.get(5).why()).isEqualTo("rounding of halves");
    Moment failed = moments.get(6);
    assertThat(failed.where()).isEqualTo(new Moment.Where(STREAM, 3, row(3, "rounds").id()));
    assertThat(failed.stretch()).isEqualTo(new Moment.Stretch(1, 3, false));

    stores.trust().say(project, STREAM, old, now, false, hand("ada", 12));
    TestDatabase.work(stores);
    assertThat(moments(now))
        .extracting(one -> one.kind().name())
        .containsExactly("KEPT_APART", "CAME");
  }

  private void write(long test, @Nullable String description, String... tags) {
    var unused =
        stores
            .edits()
            .write(
                uploads.project(),
                Subject.test(test),
                note(test).tag(),
                new NoteText(description, Map.of(), List.of(tags)),
                hand("cy", 6));
  }

  private String said(long test) {
    List<String> tagged =
        STORE.texts(
            "select tag from test_tag where test_id = " + test + " and version = 0 order by tag");
    NoteText text = note(test).text();
    assertThat(tagged).as("what filters find").isEqualTo(text.tags());
    return text.description() + " " + text.tags();
  }

  @Test
  void whatIsWrittenOfATestGoesOnWithItOverAllItsNames() {
    String[] names = {"moors at high tide", "berths at low tide", "casts off in fog"};
    for (int night = 0; night < names.length; night++) {
      run(night, names[night], null);
    }
    long[] test = new long[names.length];
    for (int i = 0; i < test.length; i++) {
      test[i] = row(i + 1, names[i]).test().id();
    }
    write(test[0], "asks the till", "slow", "till");
    join(test[0], test[1], true);
    join(test[1], test[2], true);
    assertThat(said(test[2])).isEqualTo("asks the till [slow, till]");

    write(test[0], "asks the harbour", "harbour");
    assertThat(said(test[2])).isEqualTo("asks the harbour [harbour]");

    join(test[0], test[1], false);
    assertThat(said(test[1])).isEqualTo("null []");
    assertThat(said(test[2])).isEqualTo("null []");
    assertThat(said(test[0])).isEqualTo("asks the harbour [harbour]");

    join(test[0], test[1], true);
    write(test[1], "asks nobody");
    assertThat(said(test[2])).isEqualTo("asks nobody []");
    write(test[0], "asks the till");
    assertThat(said(test[1])).as("its own by now").isEqualTo("asks nobody []");
    write(test[1], null);
    assertThat(said(test[2])).isEqualTo("null []");
    assertThat(said(test[1])).isEqualTo("null []");
  }

  private void join(long old, long now, boolean joined) {
    stores.trust().say(uploads.project(), STREAM, old, now, joined, hand("ada", 11));
    TestDatabase.work(stores);
  }
}
