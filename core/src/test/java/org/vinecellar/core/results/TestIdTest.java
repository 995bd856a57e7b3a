package org.vinecellar.core.results;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TestIdTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "adds | adds | ",
        "adds[2-3] | adds | [2-3]",
        "adds(int)[1] | adds | (int)[1]",
        "island[a [b] c] | island | [a [b] c]",
        "adds() | adds() | ",
        "rounds (half up) | rounds (half up) | ",
        "[only] | [only] | ",
        "odd] | odd] | ",
      })
  void bracketsAfterTheNameAreParameters(String printed, String name, String parameters) {
    TestId id = TestId.ofPrinted(SuitePath.ROOT, printed);

    assertThat(id.name()).isEqualTo(name);
    assertThat(id.parameters()).isEqualTo(parameters);
    assertThat(id.displayName()).isEqualTo(printed);
  }

  @Test
  void keysAreTheSameForEver() {
    TestId id = TestId.of(SuitePath.of(List.of("org.FareTest", "Înner")), "rounds", "[1]");

    // Histories hang on this value: when this test fails, the histories of all tests are lost.
    assertThat(id.key()).isEqualTo(new Key128(-1813064399127180361L, -1874736860917887362L));
  }

  @Test
  void partsOfANameAreNotInterchangeable() {
    SuitePath a = SuitePath.of(List.of("a"));
    assertThat(
            List.of(
                TestId.of(a, "bc", null).key(),
                TestId.of(SuitePath.of(List.of("ab")), "c", null).key(),
                TestId.of(SuitePath.of(List.of("a", "b")), "c", null).key(),
                TestId.of(a, "b", "c").key(),
                TestId.of(a, "b", "").key(),
                TestId.of(a, "b", null).key()))
        .doesNotHaveDuplicates();
  }
}
