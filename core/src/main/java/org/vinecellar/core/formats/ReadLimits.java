package org.vinecellar.core.formats;

/**
 * All limits on what a reader takes in, checked before memory grows.
 *
 * @param maxBytes of one file, unpacked; default 2 GiB
 * @param maxCases in one file; default 5 000 000
 * @param maxDepth of nested elements; default 512
 * @param maxNameChars of a suite's or test's name; a longer one is refused; default 20 000
 * @param maxTextChars of one message, trace or output; what is longer is cut and marked; default 6
 *     000 000
 * @param maxProperties of one case; more are dropped and reported; default 200
 * @param maxProblems kept of one file; more are only counted; default 50
 */
public record ReadLimits(
    long maxBytes,
    int maxCases,
    int maxDepth,
    int maxNameChars,
    int maxTextChars,
    int maxProperties,
    int maxProblems) {
  /** The defaults. */
  public static final ReadLimits DEFAULT =
      new ReadLimits(2L << 30, 5_000_000, 512, 20_000, 6_000_000, 200, 50);
}
