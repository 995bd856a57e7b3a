package org.vinecellar.core.trust.flaky;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What one run tells of a test.
 *
 * @param commit of the code that was tested; null where nobody told, which is one of its own
 * @param branch beside the main one, on which that is tried which may break the test; null for the
 *     main one
 * @param environment in which it ran; empty where none is told
 * @param failed how many of its tries failed; 0 or more
 * @param passed how many of its tries passed; 0 or more
 * @param shared whether what failed has a cause that many tests of the run have: that tells of the
 *     cause, and nothing of the test
 */
public record Sight(
    @Nullable String commit,
    @Nullable String branch,
    String environment,
    int failed,
    int passed,
    boolean shared) {
  /** Checks the numbers. */
  public Sight {
    Objects.requireNonNull(environment);
    if (failed < 0 || passed < 0) {
      throw new IllegalArgumentException("a test was tried less than never");
    }
  }

  /** On the main branch. */
  public Sight(
      @Nullable String commit, String environment, int failed, int passed, boolean shared) {
    this(commit, null, environment, failed, passed, shared);
  }

  /** Whether anything of it failed that tells of the test. */
  public boolean stumbled() {
    return tells() && failed > 0;
  }

  boolean tells() {
    return !shared && failed + passed > 0;
  }
}
