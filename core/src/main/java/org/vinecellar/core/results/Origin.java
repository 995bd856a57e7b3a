package org.vinecellar.core.results;

import org.jspecify.annotations.Nullable;

/**
 * Where results come from.
 *
 * @param commit the revision that was tested; null when not told
 * @param branch null when not told
 * @param buildUrl page of the job; null when not told
 * @param mainBranch the branch that others come from and go to; null when not told
 */
public record Origin(
    @Nullable String commit,
    @Nullable String branch,
    @Nullable String buildUrl,
    @Nullable String mainBranch) {
  /** Nothing is told. */
  public static final Origin UNKNOWN = new Origin(null, null, null);

  /** Of which no main branch is told. */
  public Origin(@Nullable String commit, @Nullable String branch, @Nullable String buildUrl) {
    this(commit, branch, buildUrl, null);
  }
}
