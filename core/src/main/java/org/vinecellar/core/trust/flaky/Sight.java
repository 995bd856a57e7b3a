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
 * @param common the share of the run's tests that failed for the same cause, if those are many; 0
 *     when it failed by itself. From 1 on, that tells of the cause, and nothing of the test
 */
public record Sight(
    @Nullable String commit,
    @Nullable String branch,
    String environment,
    int failed,
    int passed,
    double common) {
  /** Checks the numbers. */
  public Sight {
    Objects.requireNonNull(environment);
    if (failed < 0 || passed < 0) {
      throw new IllegalArgumentException("a test was tried less than never");
    }
  }

  /** On the main branch. */
  public Sight(@Nullable String commit, String environment, int failed, int passed, double common) {
    this(commit, null, environment, failed, passed, common);
  }

  /** Whether anything of it failed that tells of the test. */
  public boolean stumbled() {
    return tells() && failed > 0;
  }

  boolean tells() {
    return common < 1 && failed + passed > 0;
  }
}
