package org.vinecellar.core.formats;

/**
 * What a suite says of its cases, and what it holds. Some frameworks count each case, some each
 * test, however often it was tried: that tells what a case is whose test was told of before.
 *
 * @param tests as the header counts them; negative when it does not
 * @param failing as the header counts them; negative when it does not
 * @param cases that were read of it, inner suites included
 * @param failingCases of these
 */
public record SuiteHeader(int tests, int failing, int cases, int failingCases) {
  /**
   * What so many cases are, of tests that the suite has had before.
   *
   * @return {@link Repeat#UNTOLD} when that cannot be known
   */
  public Repeat meaning(int repeated) {
    if (tests == cases) {
      return Repeat.OTHER;
    }
    if (tests >= 0 && tests == cases - repeated) {
      return Repeat.RETRY;
    }
    return failing >= 0 && failing >= failingCases && failingCases > 0
        ? Repeat.OTHER
        : Repeat.UNTOLD;
  }
}
