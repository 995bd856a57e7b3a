package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Counts;

/**
 * One contribution to a run.
 *
 * @param startedAt null when its files tell no time
 * @param buildUrl null when not told
 * @param environment properties of its files as wholes
 */
public record Part(
    int number,
    String name,
    Instant receivedAt,
    @Nullable Instant startedAt,
    @Nullable String buildUrl,
    Map<String, String> environment,
    Counts counts,
    long durationMicros,
    List<PartFile> files) {
  /** Copies the collections. */
  public Part {
    environment = Map.copyOf(environment);
    files = List.copyOf(files);
  }

  /** A file of it, with what did not add up. */
  public record PartFile(String name, String format, List<String> problems) {
    /** Copies the list. */
    public PartFile {
      problems = List.copyOf(problems);
    }
  }
}
