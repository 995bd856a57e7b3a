package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.RunningNow;

/**
 * One contribution to a run.
 *
 * @param startedAt null when its files tell no time
 * @param endedAt when its last result ended; null when its files tell no time
 * @param brokenOff whether its test run ended before its time
 * @param live whether it is still being sent
 * @param running what runs now, when it is live
 * @param buildUrl null when not told
 * @param environment properties of its files as wholes
 * @param attachments files that no result claims; at most a thousand
 */
public record Part(
    int number,
    String name,
    Instant receivedAt,
    @Nullable Instant startedAt,
    @Nullable Instant endedAt,
    boolean brokenOff,
    boolean live,
    List<RunningNow> running,
    @Nullable String buildUrl,
    Map<String, String> environment,
    Counts counts,
    long durationMicros,
    List<PartFile> files,
    List<KeptAttachment> attachments) {
  /** Copies the collections. */
  public Part {
    environment = Map.copyOf(environment);
    running = List.copyOf(running);
    files = List.copyOf(files);
    attachments = List.copyOf(attachments);
  }

  /** A file of it, with what did not add up. */
  public record PartFile(String name, String format, List<String> problems) {
    /** Copies the list. */
    public PartFile {
      problems = List.copyOf(problems);
    }
  }
}
