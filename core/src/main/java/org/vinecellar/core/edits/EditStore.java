package org.vinecellar.core.edits;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;

/** Keeps what people write, and who wrote it. Everything is of one project. */
public interface EditStore {
  /** Who does it, and when. */
  record Hand(String name, Instant now) {}

  /** Empty when there is no such run or test. */
  Optional<Note> note(int projectId, Subject subject);

  /**
   * Writes a note over the one that the writer has seen.
   *
   * @param seen its {@link Note#tag}
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when it is not
   *     that any more, {@code NOT_FOUND} for no such run or test
   */
  Note write(int projectId, Subject subject, String seen, NoteText text, Hand hand);

  /** Changes of a run with its results, or of a test; the newest first, at most 200. */
  List<Edit> edits(int projectId, Subject subject);

  /**
   * Sets the outcome of a result, or takes that back. Counts and changes of the run follow.
   *
   * @param seen the outcome that holds as the writer has seen it
   * @param outcome null for the reported one
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when another
   *     holds, {@code NOT_FOUND} for no such result, {@code INVALID_VALUE} when nothing would
   *     change
   */
  void overrule(
      int projectId,
      long runId,
      ResultId id,
      Outcome seen,
      @Nullable Outcome outcome,
      String reason,
      Hand hand);
}
