package org.vinecellar.core.trust.evidence;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a failure tells against its test, by how many others failed for the same cause. */
class NightTest {
  private static Night of(int tests, int failing, int stumbling) {
    return new Night(7, 7, "c7", null, "", tests, failing, stumbling);
  }

  @ParameterizedTest(name = "{0} of {1} tests")
  @CsvSource({
    "40, 100000, true",
    "39, 100000, false",
    "24, 300, true",
    "23, 300, false",
    "5, 62, true",
    "5, 63, false",
    "4, 20, false",
    "4, 8, true",
    "3, 6, true",
    "3, 7, false",
    "2, 2, false",
    "1, 1, false",
    "60, 50, true"
  })
  void aMassIsManyTestsOrMuchOfTheRun(int reach, int tests, boolean mass) {
    Night night = of(tests, reach, 0);
    assertThat(night.isMass(reach)).isEqualTo(mass);
    if (mass) {
      assertThat(night.common(reach, reach, false)).isEqualTo(1);
    }
  }

  @ParameterizedTest(name = "{0} have it, usually {1}, for sure: {2}")
  @CsvSource({
    "1, 0, true, 0",
    "10, 0, true, 0.05",
    "10, 0, false, 0.0025",
    "10, 8, true, 0.05",
    "10, 8, false, 0.0001",
    "10, 9, false, 0",
    "10, 30, false, 0"
  })
  void onlyWordsThatMoreThanUsuallySayAreASign(
      int reach, int usual, boolean certain, double common) {
    assertThat(of(200, reach, 0).common(reach, usual, certain)).isCloseTo(common, within(1e-9));
  }

  @ParameterizedTest(name = "{1} failing and {2} stumbling of {0}, before: {3}")
  @CsvSource({
    "80, 21, 0, 0, true",
    "80, 10, 11, 0, true",
    "80, 20, 0, 0, false",
    "40, 19, 0, 0, false",
    "80, 21, 0, 10, true",
    "80, 21, 0, 11, false"
  })
  void aBadNightIsOneInWhichMuchMoreFailedThanBefore(
      int tests, int failing, int stumbling, int before, boolean bad) {
    Night night = of(tests, failing, stumbling);
    assertThat(night.isBad(of(tests, before, 0))).isEqualTo(bad);
    assertThat(night.isBad(null)).isEqualTo(night.isBad(of(tests, 0, 0)));
  }
}
