package org.vinecellar.core.formats;

/** Hands on the first problems of a file and counts the rest. */
public final class Problems {
  private final CaseHandler handler;
  private final int most;
  private int count;

  /**
   * @param most handed on; further ones are only counted
   */
  public Problems(CaseHandler handler, int most) {
    this.handler = handler;
    this.most = most;
  }

  /** A sentence for a person. */
  public void add(String problem) {
    if (count++ < most) {
      handler.onProblem(problem);
    }
  }

  /** Tells how many were not handed on. */
  public void close() {
    if (count > most) {
      handler.onProblem((count - most) + " more problems of this file are not listed");
    }
  }
}
