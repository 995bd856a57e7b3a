package org.vinecellar.core.results;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A test that has begun and not ended.
 *
 * @param suite names from the outermost in
 * @param since null when not told
 */
public record RunningNow(List<String> suite, String name, @Nullable Instant since) {
  /** Copies the list. */
  public RunningNow {
    suite = List.copyOf(suite);
  }
}
