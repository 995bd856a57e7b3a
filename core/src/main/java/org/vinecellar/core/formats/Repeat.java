package org.vinecellar.core.formats;

/** What a case is when its file has told of a test of that name before. */
public enum Repeat {
  /** The file does not say. Its header may tell ({@link CaseHandler#onHeader}). */
  UNTOLD,
  /** Another test, or one more invocation: each counts. */
  OTHER,
  /** The same test, tried once more. */
  RETRY,
  /**
   * The same test, tried once more, when the other case stands in another file of the same
   * directory; otherwise the file does not say.
   */
  RETRY_BESIDE,
  /** More of the same try, as of its teardown. */
  SAME_TRY
}
