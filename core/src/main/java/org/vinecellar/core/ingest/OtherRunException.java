package org.vinecellar.core.ingest;

import java.io.Serial;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Nothing was kept: as its files tell, an upload belongs to another run of its key than the one
 * that was reserved for it.
 */
public final class OtherRunException extends RuntimeException {
  @Serial private static final long serialVersionUID = 1;

  private final @Nullable Instant began;

  /**
   * @param began as the files tell; null when they tell nothing
   */
  public OtherRunException(@Nullable Instant began) {
    super("the part belongs to another run of its key");
    this.began = began;
  }

  /** When the part began; null when nothing tells it. */
  public @Nullable Instant began() {
    return began;
  }
}
