package org.vinecellar.service.problem;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.problem.ProblemCode;

class ProblemMappersTest {
  @Test
  void everyProblemHasAStatusATitleAndANameOfItsOwn() {
    assertThat(ProblemCode.values())
        .allSatisfy(
            code -> {
              assertThat(Problems.status(code)).isBetween(400, 503);
              assertThat(code.title()).isNotBlank();
              assertThat(code.slug()).matches("[a-z-]+");
            })
        .extracting(ProblemCode::slug)
        .doesNotHaveDuplicates();
  }

  /** Callers branch on these names: they may be added to, not changed. */
  @Test
  void namesStay() {
    assertThat(Arrays.stream(ProblemCode.values()).map(ProblemCode::slug))
        .contains(
            "unreadable-file",
            "no-tests",
            "not-signed-in",
            "not-allowed",
            "not-found",
            "already-exists",
            "invalid-value",
            "too-large",
            "too-many-tries",
            "unavailable",
            "internal");
  }
}
