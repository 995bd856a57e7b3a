package org.vinecellar.core.formats;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestId;

/**
 * One case as a file reports it, before repeated cases are joined.
 *
 * @param attempts at least one, in order; more when the file itself marks retries
 * @param started null when the file tells no time
 * @param file source file; null when not told
 * @param line from 1; 0 when not told
 */
public record ReportedCase(
    TestId test,
    ResultKind kind,
    List<Attempt> attempts,
    @Nullable Instant started,
    Map<String, String> properties,
    @Nullable String file,
    int line) {

  /** Checks nulls and copies the collections. */
  public ReportedCase {
    Objects.requireNonNull(test);
    Objects.requireNonNull(kind);
    attempts = List.copyOf(attempts);
    properties = Map.copyOf(properties);
  }
}
