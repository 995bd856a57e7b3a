package org.vinecellar.core.removal;

import java.time.Instant;

/**
 * Takes runs and streams away: nobody sees them any more at once, and what they hold leaves the
 * disk in the background. Uploads that are under way to them end with an error.
 */
public interface RemovalStore {
  /**
   * The run after it is compared with the one before it.
   *
   * @return false when there is no such run
   */
  boolean removeRun(int projectId, long runId, Instant now);

  /**
   * With all its runs. What is sent to its name from now on begins a stream anew.
   *
   * @return false when there is no such stream
   */
  boolean removeStream(int projectId, String stream, Instant now);
}
