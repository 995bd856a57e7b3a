package org.vinecellar.core.filters;

/** What hangs on a thing: asked in brackets, or of one attribute after a dot. */
public enum Relation {
  RUN_RESULTS(Thing.RUN, "results", Thing.RESULT, "its results that stand"),
  RUN_LABELS(Thing.RUN, "label", Thing.LABEL, "its labels, for keys that cannot stand after a dot"),
  RESULT_RUN(Thing.RESULT, "run", Thing.RUN, "the run that it is in"),
  RESULT_TRIES(Thing.RESULT, "tries", Thing.ATTEMPT, "its attempts, of each part that tried it"),
  RESULT_TEST(Thing.RESULT, "test", Thing.TEST, "the test that it is of"),
  RESULT_GROUP(Thing.RESULT, "group", Thing.GROUP, "the failure group it belongs to"),
  RESULT_DECISION(
      Thing.RESULT, "decision", Thing.DECISION, "what explains its failure, where something does"),
  RESULT_VERDICT(
      Thing.RESULT,
      "verdict",
      Thing.VERDICT,
      "what its test is taken for in the stream of its run"),
  TEST_RESULTS(Thing.TEST, "results", Thing.RESULT, "its results in all runs"),
  TEST_VERDICTS(Thing.TEST, "verdict", Thing.VERDICT, "what it is taken for, in each stream"),
  TEST_GONE(
      Thing.TEST, "goneFrom", Thing.RUN, "runs that had it no more, where the one before had"),
  GROUP_RESULTS(Thing.GROUP, "results", Thing.RESULT, "its results in all runs"),
  GROUP_DECISIONS(
      Thing.GROUP, "decision", Thing.DECISION, "what was said of it and not taken back"),
  GROUP_TICKETS(Thing.GROUP, "ticket", Thing.TICKET, "the tickets that it is linked to");

  private final Thing of;
  private final String word;
  private final Thing to;
  private final String meaning;

  Relation(Thing of, String word, Thing to, String meaning) {
    this.of = of;
    this.word = word;
    this.to = to;
    this.meaning = meaning;
  }

  /** Whose it is. */
  public Thing of() {
    return of;
  }

  /** As it is written. */
  public String word() {
    return word;
  }

  /** What stands at its other end. */
  public Thing to() {
    return to;
  }

  /** For people. */
  public String meaning() {
    return meaning;
  }
}
