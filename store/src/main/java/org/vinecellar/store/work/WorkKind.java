package org.vinecellar.store.work;

/** What there is to do. */
public enum WorkKind {
  /** Tells anew what changed in a run against the one before it, which has changed itself. */
  COMPARE_RUN,
  /** Groups the failures of a run, and carries what was decided to them. */
  EXPLAIN_RUN,
  /** Brings what was decided of a group to its failures, and takes away what was taken back. */
  CARRY_GROUP,
  /** The same for a run that was being grouped while somebody may have decided. */
  CARRY_RUN,
  /** Brings the failures in a group to where people said that they belong. */
  REGROUP,
  /** Lets the rules explain what nobody else has explained in a run. */
  APPLY_RULES,
  /** Takes the rows of a run off the disk. */
  REMOVE_RUN,
  /** Takes the runs of a stream away, and then the stream. */
  REMOVE_STREAM,
  /** Moves the runs of a stream to the one that it becomes, and takes it away. */
  MOVE_STREAM
}
