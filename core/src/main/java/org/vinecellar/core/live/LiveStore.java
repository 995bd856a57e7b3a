package org.vinecellar.core.live;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.TestResult;

/**
 * Keeps parts while they come. What is kept is provisional: the upload of the whole part takes its
 * place. A part of which there is no sign for some time is broken off: it stays as far as it came,
 * and is not green. A sign of it mends that.
 */
public interface LiveStore {
  /**
   * Begins a part; its run is visible from now on.
   *
   * @param runKey never null here
   */
  LivePart open(UploadRequest request, String runKey, Instant now);

  /** A part that is live; empty when it is not, or is none. */
  Optional<LivePart> find(int projectId, long runId, int partNo);

  /**
   * Adds results.
   *
   * @param batch counted from 1 without gaps; one that was taken in before changes nothing
   * @param running what runs now
   * @return the last batch that was taken in
   */
  int append(
      LivePart part, int batch, List<TestResult> results, List<RunningNow> running, Instant now);

  /**
   * Breaks off all parts of which there was no sign for so long.
   *
   * @return how many
   */
  int breakOffSilent(Duration silence, Instant now);

  /** Breaks off the parts of a run that still come. */
  void breakOff(int projectId, long runId, Instant now);
}
