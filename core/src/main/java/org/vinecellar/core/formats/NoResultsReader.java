package org.vinecellar.core.formats;

import java.io.InputStream;
import java.util.regex.Pattern;

/**
 * Passes over files that build tools leave beside results and that are none: suite files that
 * TestNG writes after failures, and the summary of Maven's integration tests.
 */
final class NoResultsReader implements ResultReader {
  private static final Pattern SUITE_FILE =
      Pattern.compile(
          "\\A(?:<\\?.*?\\?>\\s*)?<!DOCTYPE suite SYSTEM \"[^\"]*testng", Pattern.DOTALL);

  private static final Pattern SUMMARY =
      Pattern.compile("\\A(?:<\\?.*?\\?>\\s*)?<failsafe-summary[\\s>]", Pattern.DOTALL);

  @Override
  public String format() {
    return "no-results";
  }

  @Override
  public boolean recognises(FileHead head) {
    return SUITE_FILE.matcher(head.text()).find() || SUMMARY.matcher(head.text()).find();
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler) {
    handler.onProblem("is no file of results, but one that tools leave beside them: passed over");
  }
}
