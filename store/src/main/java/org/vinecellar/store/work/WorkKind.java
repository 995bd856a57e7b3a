package org.vinecellar.store.work;

/** What there is to do. */
public enum WorkKind {
  /** Tells anew what changed in a run against the one before it, which has changed itself. */
  COMPARE_RUN(Subject.RUN),
  /** Groups the failures of a run, and carries what was decided to them. */
  EXPLAIN_RUN(Subject.RUN),
  /** Brings what was decided of a group to its failures, and takes away what was taken back. */
  CARRY_GROUP(Subject.GROUP),
  /** The same for a run that was being grouped while somebody may have decided. */
  CARRY_RUN(Subject.RUN),
  /** Brings the failures in a group to where people said that they belong. */
  REGROUP(Subject.GROUP),
  /** Lets the rules explain what nobody else has explained in a run. */
  APPLY_RULES(Subject.RUN),
  /** Takes the rows of a run off the disk. */
  REMOVE_RUN(Subject.RUN),
  /** Takes the runs of a stream away, and then the stream. */
  REMOVE_STREAM(Subject.STREAM),
  /** Moves the runs of a stream to the one that it becomes, and takes it away. */
  MOVE_STREAM(Subject.STREAM),
  /** Learns of tests from a run. */
  LEARN_RUN(Subject.RUN),
  /** Learns of tests from all runs of a stream anew. */
  LEARN_STREAM(Subject.STREAM),
  /**
   * Counts what the latest runs of a stream tell of its tests. Before it is due, nothing waits for
   * it.
   */
  COUNT_STREAM(Subject.STREAM);

  /** What it is about. */
  enum Subject {
    RUN,
    GROUP,
    STREAM
  }

  private final Subject subject;

  WorkKind(Subject subject) {
    this.subject = subject;
  }

  Subject subject() {
    return subject;
  }
}
