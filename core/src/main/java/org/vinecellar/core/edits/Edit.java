package org.vinecellar.core.edits;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;

/**
 * One change that somebody made.
 *
 * @param by login of a person, or {@code token “NAME”}
 * @param field {@code description}, {@code label KEY}, {@code tags}, {@code outcome} or {@code
 *     stream}
 * @param result whose outcome was set; null for another change
 * @param resultName name of that result's test; null with {@code result}
 * @param before null for nothing
 * @param after null for nothing
 * @param reason why; null when none was asked for
 */
public record Edit(
    Instant at,
    String by,
    String field,
    @Nullable ResultId result,
    @Nullable String resultName,
    @Nullable String before,
    @Nullable String after,
    @Nullable String reason) {

  /** What was changed, and how; the same as {@link Edit} without the circumstances. */
  public record Difference(String field, @Nullable String before, @Nullable String after) {}
}
