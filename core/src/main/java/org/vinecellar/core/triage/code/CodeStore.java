package org.vinecellar.core.triage.code;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;

/** Keeps what projects say of their code, and sees to it that all runs are grouped by it. */
public interface CodeStore {
  /**
   * What is said.
   *
   * @param version goes up with every change; 0 when nothing was ever said
   * @param runs of the project
   * @param behind those of them that are still grouped by what was said, or known, before
   */
  record Kept(
      CodeSettings settings,
      int version,
      @Nullable Instant changedAt,
      @Nullable String changedBy,
      int runs,
      int behind) {
    /** Checks nulls. */
    public Kept {
      Objects.requireNonNull(settings);
    }
  }

  /** Of a project. */
  Kept code(int projectId);

  /**
   * Keeps it. All runs are grouped anew in the background; groups and decisions stay.
   *
   * @param version that was seen
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE}, {@code
   *     INVALID_VALUE}
   */
  Kept keep(int projectId, CodeSettings settings, int version, Hand hand);

  /**
   * Leaves some runs to be grouped anew that were grouped by other settings or older signatures,
   * the latest first; as long as little else waits.
   *
   * @return how many
   */
  int groupSomeAnew(Instant now);
}
