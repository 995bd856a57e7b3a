package org.vinecellar.core.formats.junitxml;

import org.vinecellar.core.formats.CaseHandler;

/** Hands on the first problems of a file and counts the rest. */
final class Problems {
  private final CaseHandler handler;
  private final int most;
  private int count;

  Problems(CaseHandler handler, int most) {
    this.handler = handler;
    this.most = most;
  }

  void add(String problem) {
    if (count++ < most) {
      handler.onProblem(problem);
    }
  }

  /** Tells how many were not handed on. */
  void close() {
    if (count > most) {
      handler.onProblem((count - most) + " more problems of this file are not listed");
    }
  }
}
