package org.vinecellar.core.formats;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/**
 * Hands everything on, and holds what a file says of itself against what it holds: where it says
 * that something failed and nothing of it did, one result more says so. What failed outside of
 * tests is never green.
 */
final class Verdict extends PassingOn {
  private final String fileName;
  private int cases;
  private boolean failing;
  private @Nullable String says;

  Verdict(CaseHandler handler, String fileName) {
    super(handler);
    this.fileName = fileName;
  }

  boolean isEmpty() {
    return cases == 0;
  }

  /** After the last that was read. */
  void end() {
    String said = says;
    if (said == null || failing) {
      return;
    }
    String base = fileName.substring(fileName.replace('\\', '/').lastIndexOf('/') + 1);
    String what =
        "the file says that something failed ("
            + said
            + "), but none of its tests did: a hook, an error outside of tests, or a limit that was not"
            + " kept";
    handler.onCase(
        FailedSetUp.of(
            SuitePath.ROOT, base.isEmpty() ? "(file)" : base, new Failure(null, what, null)),
        Repeat.OTHER);
  }

  @Override
  public void onCase(TestResult result, Repeat repeat) {
    cases++;
    failing |= result.outcome().isFailing();
    handler.onCase(result, repeat);
  }

  @Override
  public void onFailed(String words) {
    says = says == null ? words : says;
  }
}
