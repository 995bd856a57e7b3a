package org.vinecellar.core.traces;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Failure;

class ReadingFailuresTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "fare ==> expected: <4> but was: <5> | 4 | 5",
        "expected:<[a]> but was:<[b]> | [a] | [b]",
        "expected [down] but found [up] | down | up",
        "expect(received).toBe(expected)~~Expected: 42~Received: 41 | 42 | 41",
        "~expected: \"x\"~ but was: \"y\"~ | \"x\" | \"y\"",
        "Expecting actual:~  \"a\"~to be equal to:~  \"b\"~but | \"b\" | \"a\"",
        "Failed asserting that 5 matches expected 4.~ | 4 | 5",
        "AssertionError: assert 3 == 4 | 4 | 3",
        "Expected values to be strictly equal:~~1 !== 2~ | 2 | 1",
        "Expected equality of these values:~  x~    Which is: 3~  y~    Which is: 4 | 3 | 4",
        "fare.go:12: got 5, want 4 | 4 | 5",
        "Failed test 'rounds'~at fares.t line 4.~got: '5'~expected: '4' | '4' | '5'",
        "Expecting actual:~  \"a\"~to be equal to:~  \"b\" | \"b\" | \"a\"",
        "no berth today | | ",
      })
  void expectedAndActual(String message, String expected, String actual) {
    Comparison found = Comparison.in(message.replace('~', '\n'));

    assertThat(found == null ? null : found.expected()).isEqualTo(expected);
    assertThat(found == null ? null : found.actual()).isEqualTo(actual);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "^[31mred^[0m plain | red plain",
        "^[1;38;5;12mbold blue^[m | bold blue",
        "^[2K^[1Gprogress | progress",
        "^]8;;https://x.example^Glink^]8;;^G | link",
        "^(no code of ours) | (no code of ours)",
        "[31mnot a code] | [31mnot a code]",
      })
  void summariesAreWithoutTheCodesOfATerminal(String written, String line) {
    String message = written.replace("^G", "\u0007").replace('^', '\u001B');

    assertThat(new Failure(null, message, null).firstLine()).isEqualTo(line);
  }

  @Test
  void comparisonsAreWithoutTheCodesOfATerminal() {
    String message = "Expected: \u001B[32m42\u001B[39m\nReceived: \u001B[31m41\u001B[39m";

    assertThat(Comparison.in(message)).isEqualTo(new Comparison("42", "41"));
  }

  @Test
  void theFirstLineIsTheFirstThatSaysSomething() {
    assertThat(new Failure("T", " \n\n  two  \nthree", "trace").firstLine()).isEqualTo("two");
    assertThat(new Failure("T", "\u001B[0m\n", "trace\nat x").firstLine()).isEqualTo("trace");
    assertThat(new Failure("T", null, " \n").firstLine()).isEqualTo("T");
    assertThat(new Failure(null, null, null).firstLine()).isNull();
  }
}
