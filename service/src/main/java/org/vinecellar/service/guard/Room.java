package org.vinecellar.service.guard;

/** A purpose that has threads of its own, so that no other can take them away. */
public enum Room {
  /** Finds out who comes in. */
  DOOR(8, 2_000),
  /** Computes hashes of passwords; as many as there are processors to burn. */
  HASH(2, 60),
  /** Writes what is sent to the disk. */
  SPOOL(4, 2_000),
  /** Removes what is left of uploads; there are never so many, so that none is refused. */
  SWEEP(1, 20_000),
  /** Takes in live results. */
  LIVE(4, 400),
  /** Reads contents for downloads, a piece at a time. */
  DOWNLOAD(6, 1_000);

  private final int threads;
  private final int queue;

  Room(int threads, int queue) {
    this.threads = threads;
    this.queue = queue;
  }

  int threads() {
    return threads;
  }

  /** How many may wait; more are refused. */
  int queue() {
    return queue;
  }
}
