package org.vinecellar.core.filters;

import java.util.Arrays;
import java.util.List;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.results.Outcome;

/**
 * What can be asked of a thing: the one place that the resolver, the database's conditions,
 * completion and the documentation read.
 */
public enum Attribute {
  RUN_STREAM(Thing.RUN, "stream", Kind.NAME, "name of its stream"),
  RUN_NUMBER(Thing.RUN, "number", Kind.NUMBER, "its number in its stream"),
  RUN_OPEN(Thing.RUN, "open", Kind.FLAG, "whether results may still come"),
  RUN_STARTED(
      Thing.RUN, "started", Kind.TIME, "when it started, as its files tell, or else when it came"),
  RUN_CHANGED(Thing.RUN, "changed", Kind.TIME, "when it last changed"),
  RUN_CLOSED(Thing.RUN, "closed", Kind.TIME, "when it was closed; none while it is open"),
  RUN_CLOSED_BY(
      Thing.RUN,
      "closedBy",
      Kind.CHOICE,
      "how it came to be closed",
      List.of("upload", "parts", "hand", "silence")),
  RUN_BRANCH(Thing.RUN, "branch", Kind.NAME, "branch that was tested"),
  RUN_COMMIT(Thing.RUN, "commit", Kind.NAME, "commit that was tested"),
  RUN_LABEL(Thing.RUN, "label", Kind.NAME, "value of a label, as in label.team", Shape.KEYED),
  RUN_TAG(Thing.RUN, "tag", Kind.NAME, "a tag that somebody gave it", Shape.MANY),
  RUN_DESCRIPTION(Thing.RUN, "description", Kind.TEXT, "what somebody wrote about it"),
  RUN_PART(Thing.RUN, "part", Kind.NAME, "name of one of its parts", Shape.MANY),
  RUN_TESTS(Thing.RUN, "tests", Kind.NUMBER, "how many tests it has"),
  RUN_PASSED(Thing.RUN, "passed", Kind.NUMBER, "how many of them passed"),
  RUN_FAILED(Thing.RUN, "failed", Kind.NUMBER, "how many failed"),
  RUN_ERRORED(Thing.RUN, "errored", Kind.NUMBER, "how many errored"),
  RUN_SKIPPED(Thing.RUN, "skipped", Kind.NUMBER, "how many were skipped"),
  RUN_NOT_REACHED(Thing.RUN, "notReached", Kind.NUMBER, "how many were not reached"),
  RUN_RETRIED(Thing.RUN, "retried", Kind.NUMBER, "how many took more than one attempt"),
  RUN_SET_UPS(Thing.RUN, "setUps", Kind.NUMBER, "how many set-ups failed"),
  RUN_OVERRULED(
      Thing.RUN, "overruled", Kind.NUMBER, "how many results have an outcome that somebody set"),
  RUN_TEST_TIME(Thing.RUN, "testTime", Kind.SECONDS, "all its results together"),
  RUN_NEW_FAILING(
      Thing.RUN, "newFailing", Kind.NUMBER, "tests that fail and did not in the run before"),
  RUN_FAILING_AS_BEFORE(
      Thing.RUN, "failingAsBefore", Kind.NUMBER, "tests that fail as they did in the run before"),
  RUN_FIXED(Thing.RUN, "fixed", Kind.NUMBER, "tests that pass and failed in the run before"),
  RUN_PASSED_ON_RETRY(
      Thing.RUN, "passedOnRetry", Kind.NUMBER, "tests that passed only after failed attempts"),
  RUN_ADDED(Thing.RUN, "added", Kind.NUMBER, "tests that the run before had not"),
  RUN_GONE(Thing.RUN, "gone", Kind.NUMBER, "tests that only the run before had"),
  RUN_RENAMED(
      Thing.RUN,
      "renamed",
      Kind.NUMBER,
      "tests that the run before had under another name, and of which nothing else is to be told"),
  RESULT_OUTCOME(
      Thing.RESULT,
      "outcome",
      Kind.CHOICE,
      "its outcome; a set-up that failed is no test and has none",
      Attribute.outcomes()),
  RESULT_CHANGE(
      Thing.RESULT,
      "change",
      Kind.CHOICE,
      "what changed since the run before",
      Attribute.changes()),
  RESULT_TEXT(
      Thing.RESULT,
      "text",
      Kind.TEXT,
      "its name, parameters, suites and first line, each",
      Shape.MANY),
  RESULT_NAME(Thing.RESULT, "name", Kind.TEXT, "name of its test"),
  RESULT_PARAMETERS(Thing.RESULT, "parameters", Kind.TEXT, "parameters of its test"),
  RESULT_VARIANT(
      Thing.RESULT,
      "variant",
      Kind.NAME,
      "a word of its test's variant, as in variant.browser",
      Shape.KEYED),
  RESULT_SUITE(
      Thing.RESULT,
      "suite",
      Kind.TEXT,
      "name of a suite that its test is in, each around it too",
      Shape.MANY),
  RESULT_FIRST_LINE(
      Thing.RESULT, "firstLine", Kind.TEXT, "first line of its failure, or why it was skipped"),
  RESULT_FILE(Thing.RESULT, "file", Kind.TEXT, "source file of its test"),
  RESULT_TAG(
      Thing.RESULT, "tag", Kind.NAME, "a tag of its test, from its file or by hand", Shape.MANY),
  RESULT_STEP(Thing.RESULT, "step", Kind.TEXT, "text of one of its steps", Shape.MANY),
  RESULT_PART(Thing.RESULT, "part", Kind.NAME, "name of the part that it came with"),
  RESULT_DURATION(Thing.RESULT, "duration", Kind.SECONDS, "how long its last attempt took"),
  RESULT_STARTED(Thing.RESULT, "started", Kind.TIME, "when it started, where its file tells"),
  RESULT_ATTEMPTS(Thing.RESULT, "attempts", Kind.NUMBER, "how many attempts it took"),
  RESULT_SET_UP(Thing.RESULT, "setUp", Kind.FLAG, "whether it is a set-up that failed"),
  RESULT_REPEATED(
      Thing.RESULT,
      "repeated",
      Kind.FLAG,
      "whether another result of its test, failing as it does or not, stands before it in the run"),
  RESULT_OVERRULED(Thing.RESULT, "overruled", Kind.FLAG, "whether somebody set its outcome"),
  RESULT_OVERRULED_BY(Thing.RESULT, "overruledBy", Kind.NAME, "who set its outcome"),
  RESULT_OVERRULED_AT(Thing.RESULT, "overruledAt", Kind.TIME, "when its outcome was set"),
  RESULT_QUARANTINED(
      Thing.RESULT,
      "quarantined",
      Kind.FLAG,
      "whether its test was in quarantine when its run began"),
  RESULT_GROUP(Thing.RESULT, "group", Kind.NUMBER, "number of the failure group it belongs to"),
  RESULT_CATEGORY(Thing.RESULT, "category", Kind.TEXT, "category of what explains its failure"),
  RESULT_REPORTED(
      Thing.RESULT,
      "reported",
      Kind.CHOICE,
      "its outcome before anybody set it",
      Attribute.outcomes()),
  RESULT_TEST_ID(Thing.RESULT, "testId", Kind.NUMBER, "number of its test"),
  RESULT_NOW_TEST_ID(
      Thing.RESULT,
      "nowTestId",
      Kind.NUMBER,
      "number of the test as which its test goes on by now; its own where it was not renamed"),
  RESULT_LABEL(
      Thing.RESULT,
      "label",
      Kind.NAME,
      "value of a label of its run, as in label.team",
      Shape.KEYED),
  TEST_TEXT(Thing.TEST, "text", Kind.TEXT, "its name, parameters and suites, each", Shape.MANY),
  TEST_NAME(Thing.TEST, "name", Kind.TEXT, "its name"),
  TEST_PARAMETERS(Thing.TEST, "parameters", Kind.TEXT, "its parameters"),
  TEST_VARIANT(
      Thing.TEST,
      "variant",
      Kind.NAME,
      "a word of its variant, as in variant.browser",
      Shape.KEYED),
  TEST_SUITE(
      Thing.TEST,
      "suite",
      Kind.TEXT,
      "name of a suite that it is in, each around it too",
      Shape.MANY),
  TEST_FILE(Thing.TEST, "file", Kind.TEXT, "its source file, as told last"),
  TEST_TAG(
      Thing.TEST, "tag", Kind.NAME, "a tag, from its file as told last or by hand", Shape.MANY),
  TEST_DESCRIPTION(Thing.TEST, "description", Kind.TEXT, "what somebody wrote about it"),
  TEST_ID(Thing.TEST, "id", Kind.NUMBER, "its number"),
  GROUP_NUMBER(Thing.GROUP, "number", Kind.NUMBER, "its number"),
  GROUP_SENTENCE(Thing.GROUP, "sentence", Kind.TEXT, "what it is called: its failures in one line"),
  GROUP_RESULTS(Thing.GROUP, "failures", Kind.NUMBER, "how many failing results it has"),
  GROUP_UNSORTED(Thing.GROUP, "unsorted", Kind.NUMBER, "how many of them nothing explains"),
  GROUP_TESTS(Thing.GROUP, "tests", Kind.NUMBER, "how many tests failed with it"),
  GROUP_RUNS(Thing.GROUP, "runs", Kind.NUMBER, "how many runs have it"),
  GROUP_STREAMS(Thing.GROUP, "streams", Kind.NUMBER, "how many streams have it"),
  GROUP_LATEST(Thing.GROUP, "latest", Kind.TIME, "when the latest run began that has it"),
  GROUP_FOUND(Thing.GROUP, "found", Kind.TIME, "when it was found here for the first time"),
  GROUP_ASSIGNED(Thing.GROUP, "assigned", Kind.NAME, "who it was given to"),
  DECISION_CATEGORY(Thing.DECISION, "category", Kind.TEXT, "its category"),
  DECISION_COMMENT(Thing.DECISION, "comment", Kind.TEXT, "what stands beside it"),
  DECISION_BY(Thing.DECISION, "by", Kind.NAME, "who made it; of a rule, who wrote that"),
  DECISION_MADE(Thing.DECISION, "made", Kind.TIME, "when it was made"),
  DECISION_RULE(Thing.DECISION, "rule", Kind.NAME, "name of the rule that made it"),
  DECISION_ENDS(
      Thing.DECISION, "ends", Kind.TIME, "runs that begin then or later are not explained by it"),
  TICKET_KEY(Thing.TICKET, "key", Kind.NAME, "by which people know it in the tracker"),
  TICKET_TITLE(Thing.TICKET, "title", Kind.TEXT, "its title"),
  TICKET_STATE(Thing.TICKET, "state", Kind.TEXT, "how it stands, in the tracker's own word"),
  TICKET_OPEN(
      Thing.TICKET,
      "open",
      Kind.FLAG,
      "whether something is still to be done there; no value while the tracker has not told"),
  TICKET_CLOSED(Thing.TICKET, "closed", Kind.TIME, "when it was closed"),
  VERDICT_IS(
      Thing.VERDICT,
      "is",
      Kind.CHOICE,
      "what the test is taken for",
      List.of("flaky", "steady", "broken", "unsure")),
  VERDICT_STREAM(Thing.VERDICT, "stream", Kind.NAME, "name of the stream"),
  VERDICT_SCORE(Thing.VERDICT, "score", Kind.NUMBER, "how surely it is flaky, from 0 to 1"),
  VERDICT_RATE(
      Thing.VERDICT, "rate", Kind.NUMBER, "how often it fails by chance, from 0 to 1, where known"),
  VERDICT_RUNS(Thing.VERDICT, "runs", Kind.NUMBER, "how many runs told of it"),
  VERDICT_STUMBLES(
      Thing.VERDICT, "stumbles", Kind.NUMBER, "in how many of them a try failed by itself"),
  ATTEMPT_TYPE(
      Thing.ATTEMPT, "type", Kind.TEXT, "kind of one of its failures, such as a class", Shape.MANY),
  ATTEMPT_MESSAGE(
      Thing.ATTEMPT, "message", Kind.TEXT, "whole message of one of its failures", Shape.MANY),
  ATTEMPT_TRACE(Thing.ATTEMPT, "trace", Kind.TEXT, "trace of one of its failures", Shape.MANY),
  ATTEMPT_OUTPUT(
      Thing.ATTEMPT, "output", Kind.TEXT, "what it printed, each of the two ways", Shape.MANY),
  ATTEMPT_STEP(Thing.ATTEMPT, "step", Kind.TEXT, "text of one of its steps", Shape.MANY),
  LABEL_KEY(Thing.LABEL, "key", Kind.NAME, "its key"),
  LABEL_VALUE(Thing.LABEL, "value", Kind.NAME, "its value");

  /** How many values a thing has. */
  private enum Shape {
    ONE,
    MANY,
    KEYED
  }

  private final Thing of;
  private final String word;
  private final Kind kind;
  private final String meaning;
  private final Shape shape;
  private final List<String> choices;

  Attribute(Thing of, String word, Kind kind, String meaning) {
    this(of, word, kind, meaning, Shape.ONE);
  }

  Attribute(Thing of, String word, Kind kind, String meaning, Shape shape) {
    this(of, word, kind, meaning, shape, List.of());
  }

  Attribute(Thing of, String word, Kind kind, String meaning, List<String> choices) {
    this(of, word, kind, meaning, Shape.ONE, choices);
  }

  Attribute(Thing of, String word, Kind kind, String meaning, Shape shape, List<String> choices) {
    this.of = of;
    this.word = word;
    this.kind = kind;
    this.meaning = meaning;
    this.shape = shape;
    this.choices = List.copyOf(choices);
  }

  private static List<String> outcomes() {
    return Arrays.stream(Outcome.values()).map(Outcome::word).toList();
  }

  private static List<String> changes() {
    return Arrays.stream(Change.values())
        .filter(change -> change != Change.GONE)
        .map(Change::word)
        .toList();
  }

  /** Whose it is. */
  public Thing of() {
    return of;
  }

  /** As it is written. */
  public String word() {
    return word;
  }

  public Kind kind() {
    return kind;
  }

  /** For people. */
  public String meaning() {
    return meaning;
  }

  /** Whether a thing may have several values; one that holds is enough. */
  public boolean isMany() {
    return shape == Shape.MANY;
  }

  /** Whether a key is to be named after a dot. */
  public boolean isKeyed() {
    return shape == Shape.KEYED;
  }

  /** Of a {@link Kind#CHOICE} its words, else empty. */
  public List<String> choices() {
    return choices;
  }
}
