package org.vinecellar.core.triage.code;

import java.util.Objects;

/**
 * A line of a stack trace, or some lines of one kind that follow each other.
 *
 * @param text without its line break
 */
public record TraceLine(Kind kind, String text) {
  /** What a line of a trace is. */
  public enum Kind {
    /** A message, or the beginning of a cause. */
    TEXT,
    /** A place in code of the project under test. */
    OWN,
    /** A place in a test framework, runtime or library that people rarely need. */
    FRAMEWORK
  }

  /** Checks nulls. */
  public TraceLine {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(text);
  }
}
