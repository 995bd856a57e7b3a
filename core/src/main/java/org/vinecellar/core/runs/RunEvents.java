package org.vinecellar.core.runs;

import java.util.function.BooleanSupplier;

/** Tells of runs and failure groups that change, whichever instance of the service changed them. */
public interface RunEvents {
  /** Takes the news; called by the thread that listens. */
  interface Listener {
    /** A run has another version now. */
    void changed(int projectId, long runId);

    /** Something else is decided of a failure group now. */
    void decided(int projectId, long group);
  }

  /**
   * Listens as long as it is wanted. Ends with an exception when the connection breaks; news of the
   * time between are lost, so that whoever listens looks again.
   */
  void listen(BooleanSupplier wanted, Listener listener);
}
