package org.vinecellar.store.work;

/** What there is to do. */
public enum WorkKind {
  /** Tells anew what changed in a run against the one before it, which has changed itself. */
  COMPARE_RUN,
  /** Takes the rows of a run off the disk. */
  REMOVE_RUN,
  /** Takes the runs of a stream away, and then the stream. */
  REMOVE_STREAM,
  /** Moves the runs of a stream to the one that it becomes, and takes it away. */
  MOVE_STREAM
}
