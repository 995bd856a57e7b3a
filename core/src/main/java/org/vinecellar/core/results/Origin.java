package org.vinecellar.core.results;

import org.jspecify.annotations.Nullable;

/**
 * Where results come from.
 *
 * @param commit the revision that was tested; null when not told
 * @param branch null when not told
 * @param buildUrl page of the job; null when not told
 */
public record Origin(@Nullable String commit, @Nullable String branch, @Nullable String buildUrl) {
  /** Nothing is told. */
  public static final Origin UNKNOWN = new Origin(null, null, null);
}
