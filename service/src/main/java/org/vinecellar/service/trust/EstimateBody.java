package org.vinecellar.service.trust;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.Estimate;
import org.vinecellar.core.trust.TrustStore;

/**
 * A test of a stream, and whether it can be believed.
 *
 * @param id its number
 * @param test the innermost suite's name, a hash and the test's name with its parameters
 * @param variant its words as key=value with commas between; empty for none
 * @param verdict flaky, steady, broken or unsure
 * @param score how likely it is flaky, from 0 to 1
 * @param rate how often it fails by chance, from 0 to 1; null for a broken test
 * @param low where an interval begins that has the true rate in nine of ten cases
 * @param high where it ends
 * @param runs that told of it
 * @param since the number of the run with the first failure of those that still count
 * @param suite the names of the suites around it, outermost first
 * @param stumbles in how many runs a try of it failed by itself
 * @param onlyIn the environment in which alone it is flaky or broken; null for everywhere
 */
@Schema(name = "TestEstimate")
public record EstimateBody(
    long id,
    String test,
    String variant,
    @Schema(enumeration = {"flaky", "steady", "broken", "unsure"}) String verdict,
    double score,
    @Schema(nullable = true) @Nullable Double rate,
    @Schema(nullable = true) @Nullable Double low,
    @Schema(nullable = true) @Nullable Double high,
    int runs,
    @Schema(nullable = true) @Nullable Integer since,
    List<String> suite,
    int stumbles,
    @Schema(nullable = true) @Nullable String onlyIn) {

  static EstimateBody of(TrustStore.TestLine line) {
    KeptTest test = line.test();
    Estimate told = line.estimate();
    return new EstimateBody(
        test.id(),
        TestWords.shortly(test),
        TestWords.variant(test),
        told.verdict().word(),
        rounded(told.score()),
        round(told.rate()),
        round(told.low()),
        round(told.high()),
        told.runs(),
        line.since(),
        test.suite(),
        told.stumbles(),
        told.onlyIn());
  }

  private static @Nullable Double round(@Nullable Double number) {
    return number == null ? null : (Double) rounded(number);
  }

  private static double rounded(double number) {
    return Math.round(number * 1e6) / 1e6;
  }
}
