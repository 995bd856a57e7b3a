package org.vinecellar.core.runs;

import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * How the job ended that left results behind, or none.
 *
 * @param command null when not told
 * @param exitCode null when not told
 * @param signal that ended it; null for none
 * @param millis how long it took; null when not told
 */
public record Job(
    Status status,
    @Nullable String command,
    @Nullable Integer exitCode,
    @Nullable String signal,
    @Nullable Long millis) {
  private static final int MAX_COMMAND = 2000;

  /** How it ended. */
  public enum Status {
    PASSED,
    FAILED,
    CANCELLED;

    /** As it is written. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /**
     * As it is written.
     *
     * @throws CellarException {@code INVALID_VALUE}
     */
    public static Status of(String word) {
      for (Status status : values()) {
        if (status.word().equals(word)) {
          return status;
        }
      }
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the job status “" + word + "” is none of passed, failed, cancelled");
    }
  }

  /** Cuts what is too long. */
  public Job {
    if (command != null && command.length() > MAX_COMMAND) {
      command = command.substring(0, MAX_COMMAND) + "…";
    }
    if (signal != null && !signal.matches("[A-Za-z0-9 +-]{1,40}")) {
      throw new CellarException(ProblemCode.INVALID_VALUE, "the signal is no name of one");
    }
  }

  /** Whether it did not come to a good end. */
  public boolean wentWrong() {
    return status != Status.PASSED;
  }

  /** In words, as “failed with exit code 3”. */
  public String said() {
    String how =
        signal != null
            ? ", ended by " + signal
            : exitCode != null && exitCode != 0 ? " with exit code " + exitCode : "";
    return (status == Status.CANCELLED ? "was cancelled" : status.word()) + how;
  }
}
