package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.RunningNow;

/**
 * One contribution to a run.
 *
 * @param variant what its sender told of the variant of all its tests; empty for none
 * @param buildUrl null when not told
 * @param job how it ended; null when not told
 * @param environment properties of its files as wholes
 * @param attachments files that no result claims; at most a thousand
 */
public record Part(
    int number,
    String name,
    Map<String, String> variant,
    Times times,
    Progress progress,
    @Nullable String buildUrl,
    @Nullable Job job,
    Map<String, String> environment,
    Counts counts,
    long durationMicros,
    List<PartFile> files,
    List<KeptAttachment> attachments) {
  /** Copies the collections. */
  public Part {
    variant = Collections.unmodifiableMap(new TreeMap<>(variant));
    environment = Map.copyOf(environment);
    files = List.copyOf(files);
    attachments = List.copyOf(attachments);
  }

  /**
   * When it was.
   *
   * @param started null when its files tell no time
   * @param ended when its last result ended; null when its files tell no time
   */
  public record Times(Instant received, @Nullable Instant started, @Nullable Instant ended) {}

  /**
   * How far it is.
   *
   * @param brokenOff whether its test run ended before its time
   * @param live whether it is still being sent
   * @param running what runs now, when it is live
   */
  public record Progress(boolean brokenOff, boolean live, List<RunningNow> running) {
    /** Copies the list. */
    public Progress {
      running = List.copyOf(running);
    }
  }

  /** A file of it, with what did not add up. */
  public record PartFile(String name, String format, List<String> problems) {
    /** Copies the list. */
    public PartFile {
      problems = List.copyOf(problems);
    }
  }
}
