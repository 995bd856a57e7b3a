package org.vinecellar.core.ingest;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Counts;

/**
 * What one file held.
 *
 * @param format null when the file could not be read
 * @param counts of the tests that this file named first
 * @param problems what did not add up but did not stop the reading
 * @param brokenOff whether it ends before the test run did; what came before is kept
 * @param error why the file could not be read; null when it could
 */
public record FileReport(
    String file,
    @Nullable String format,
    Counts counts,
    List<String> problems,
    boolean brokenOff,
    @Nullable String error) {
  /** Copies the list. */
  public FileReport {
    problems = List.copyOf(problems);
  }

  /** The same with one more problem. */
  public FileReport with(String problem) {
    List<String> more = new ArrayList<>(problems);
    more.add(problem);
    return new FileReport(file, format, counts, more, brokenOff, error);
  }
}
