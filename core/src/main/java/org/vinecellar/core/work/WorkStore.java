package org.vinecellar.core.work;

import java.time.Instant;

/**
 * Work that was left with something that changed, such as a run. It is there if, and only if, the
 * change is; it is done once, in the order in which it was asked for of one run, by any instance.
 */
public interface WorkStore {
  /**
   * Does one piece of work that is due. What fails is kept, to be tried again later.
   *
   * @return whether there was any
   */
  boolean doOne(Instant now);

  /** What waits, as it is now. */
  Waiting waiting(Instant now);
}
