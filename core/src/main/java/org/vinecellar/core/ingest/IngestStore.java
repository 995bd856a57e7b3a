package org.vinecellar.core.ingest;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Keeps uploads. */
public interface IngestStore {
  /**
   * A place for an upload in a run that nobody sees before {@link UploadWriter#commit}.
   *
   * @param duplicate the receipt of the same content sent to the same run before; null when new
   */
  record Reservation(
      int projectId,
      long streamId,
      long runId,
      int partNo,
      String contentHash,
      @Nullable Receipt duplicate) {}

  /**
   * Finds or makes stream and run.
   *
   * @param runKey never null here
   * @param contentHash lower-case hex
   */
  Reservation reserve(UploadRequest request, String runKey, String contentHash, Instant now);

  /** Opens the one transaction of an upload; closing it without a commit leaves nothing behind. */
  UploadWriter write(Reservation reservation);

  /**
   * Closes runs that got nothing since a point in time.
   *
   * @return how many
   */
  int closeSilentRuns(Instant since, Instant now);
}
