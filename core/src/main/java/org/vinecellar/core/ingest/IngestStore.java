package org.vinecellar.core.ingest;

import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;

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
   * @param part what is known of the part, by which its run is chosen
   * @throws org.vinecellar.core.problem.CellarException {@code RUN_CLOSED} when the run takes no
   *     more
   */
  Reservation reserve(
      UploadRequest request, String runKey, String contentHash, RunChoice.Coming part);

  /**
   * Opens the one transaction of an upload; closing it without a commit leaves nothing behind.
   *
   * @param attachments where files are found that results name
   */
  UploadWriter write(Reservation reservation, AttachmentFiles<SourceFile> attachments);

  /**
   * Closes runs that got nothing for as long as their stream allows.
   *
   * @param usual how long that is for streams that set nothing themselves
   * @return how many
   */
  int closeSilentRuns(Duration usual, Instant now);

  /**
   * Closes a run by hand.
   *
   * @return false when it was closed already
   */
  boolean close(int projectId, long runId, Instant now);

  /**
   * Opens the way for a run key to its run; empty when no run of the stream has it.
   *
   * @param runKey as the sender gave it
   */
  Optional<Long> runOf(int projectId, String stream, String runKey);

  /**
   * Drops contents that no attachment uses: what uploads left behind that failed.
   *
   * @param before only what no upload has relied on since; more than the longest upload ago
   * @return how many
   */
  int dropUnusedContents(Instant before);

  /**
   * Drops runs to which no upload ever came to its end, and streams that have none.
   *
   * @param before only those that were begun before; more than the longest upload ago
   * @return how many
   */
  int dropReservedRuns(Instant before);

  /**
   * Has the database keep statistics of runs in those of its tables that have enough of them.
   *
   * @return in how many tables it began to
   */
  int countRuns();
}
