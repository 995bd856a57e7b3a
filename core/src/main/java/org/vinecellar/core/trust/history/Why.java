package org.vinecellar.core.trust.history;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.Estimate;

/** Says in one sentence why a test is taken for what it is. */
public final class Why {
  private Why() {}

  /**
   * @param evidence of what was looked at
   * @param since null when it does not fail now
   * @param cleanRuns how many more runs without a failure it takes until something else is said; 0
   *     when that is not known
   */
  public static String sentence(
      Estimate told, List<Evidence> evidence, @Nullable Since since, int cleanRuns) {
    return switch (told.verdict()) {
      case FLAKY -> flaky(told, evidence, cleanRuns);
      case BROKEN -> broken(told, since);
      case STEADY ->
          told.stumbles() == 0
              ? "Never failed by itself in " + runs(told.runs()) + "."
              : "Failed by itself in "
                  + told.stumbles()
                  + " of "
                  + runs(told.runs())
                  + ", and has been clean for long enough.";
      case UNSURE ->
          since != null
              ? failing(told, since)
              : told.stumbles() == 0
                  ? "Cannot say yet: "
                      + (told.runs() == 0 ? "no run" : "only " + runs(told.runs()))
                      + " told of it."
                      + more(cleanRuns, " it is called steady")
                  : "Cannot say: it failed by itself in "
                      + told.stumbles()
                      + " of "
                      + runs(told.runs())
                      + ", which may be chance or a fault that was mended."
                      + more(cleanRuns, " it is called steady");
    };
  }

  private static String failing(Estimate told, Since since) {
    return "Fails since #"
        + since.firstBad().run().number()
        + ", in "
        + runs(since.runs())
        + "; it is too early to say whether it is broken or fails by chance"
        + (told.stumbles() > since.runs() ? ", since it failed before too." : ".");
  }

  private static String flaky(Estimate told, List<Evidence> evidence, int cleanRuns) {
    List<String> shown = new ArrayList<>();
    for (Evidence.Kind kind : Evidence.Kind.values()) {
      long count = evidence.stream().filter(one -> one.kind() == kind).count();
      if (count > 0) {
        shown.add(words(kind) + " " + (count == 1 ? "once" : count + " times"));
      }
    }
    return "Fails by chance"
        + (told.onlyIn() == null ? "" : ", in " + told.onlyIn() + " alone")
        + (told.rate() == null ? "" : ", in about " + percent(told.rate()) + " of its tries")
        + (shown.isEmpty() ? "" : ": " + String.join(", ", shown))
        + "."
        + more(cleanRuns, " it is not called flaky any more");
  }

  private static String broken(Estimate told, @Nullable Since since) {
    String where = told.onlyIn() == null ? "" : " in " + told.onlyIn() + " alone";
    if (since == null) {
      return "Broken" + where + ".";
    }
    return "Broken"
        + where
        + " since #"
        + since.firstBad().run().number()
        + (since.lastGood() == null
            ? ", and not seen to pass before."
            : "; it last passed in #" + since.lastGood().run().number() + ".");
  }

  private static String words(Evidence.Kind kind) {
    return switch (kind) {
      case PASSED_ON_RETRY -> "passed when tried again";
      case BOTH_ON_ONE_COMMIT -> "failed on a commit on which it passed too";
      case ALONE_BETWEEN_PASSES -> "failed alone between runs that passed";
    };
  }

  private static String more(int cleanRuns, String then) {
    return cleanRuns == 0
        ? ""
        : " After "
            + (cleanRuns == 1 ? "one more clean run" : cleanRuns + " more clean runs")
            + then
            + ".";
  }

  private static String runs(int runs) {
    return runs == 1 ? "1 run" : runs + " runs";
  }

  private static String percent(double share) {
    double percent = share * 100;
    return percent < 10
        ? String.format(Locale.ROOT, "%.1f %%", percent)
        : Math.round(percent) + " %";
  }
}
