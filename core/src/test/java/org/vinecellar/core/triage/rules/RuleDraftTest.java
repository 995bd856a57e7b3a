package org.vinecellar.core.triage.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Failure;

/** What can be kept as a rule, and what its pattern is looked for in. */
class RuleDraftTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");

  private static RuleDraft draft(String filter, String pattern) {
    return new RuleDraft("a rule", filter, pattern, "Test fault", null, true);
  }

  @Test
  void theRulesToStartWithCanBeKeptAndAreOff() {
    assertThat(Starters.ALL).hasSize(5);
    for (Starters.Starter one : Starters.ALL) {
      assertThat(one.said().checked(NOW).on()).as(one.key()).isFalse();
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "refused | java.net.ConnectException: Connection refused (Connection refused) | true",
        "refused | dial tcp 10.1.4.7:5432: connect: connection refused | true",
        "refused | Error: connect ECONNREFUSED 127.0.0.1:8080 | true",
        "refused | the skipper refused to sail | false",
        "gateway | expected status 200 but got 503 | true",
        "gateway | <title>502 Bad Gateway</title> | true",
        "gateway | HTTP/1.1 504 Gateway Timeout | true",
        "gateway | status code: 500 | false",
        "gateway | expected: 503 but was: 12 | false",
        "memory | java.lang.OutOfMemoryError: Java heap space | true",
        "memory | terminate called after throwing an instance of 'std::bad_alloc' | true",
        "memory | FATAL ERROR: Reached heap limit Allocation failed | true",
        "memory | the memory of the last sailing | false",
        "stale | StaleElementReferenceException: stale element reference | true",
        "stale | Element is not attached to the DOM | true",
        "stale | the bread is stale | false",
      })
  void theRulesToStartWithKnowTheirKind(String key, String text, boolean fits) {
    RuleDraft rule =
        Starters.ALL.stream().filter(one -> one.key().equals(key)).findFirst().orElseThrow().said();
    assertThat(RulePattern.of(rule.pattern()).isIn(text)).isEqualTo(fits);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "~~ | ~~ | write a filter or a pattern",
        "~  ~ | ~~ | write a filter or a pattern",
        "outcome eq | ~~ | filter, position",
        "colour eq \"red\" | ~~ | position 1",
        "~~ | (a | missing closing )",
        "~~ | a(?=b) | no look-ahead",
        "~~ | (a)\\1 | no look-ahead and no back-references",
        "~~ | ((a{1000}){1000}){1000} | repeats too much",
        "~~ | (?i)(([ab]{9}x{2,9}){9,}y){99} | repeats too much",
      })
  void whatCannotBeReadIsToldBeforeItIsKept(String filter, String pattern, String says) {
    assertThatThrownBy(() -> draft(filter, pattern).checked(NOW))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining(says);
  }

  @ParameterizedTest
  @CsvSource({
    "abc, 3",
    "a{3}, 3",
    "(ab){2}, 6",
    "((a{10}){10}){10}, 1110",
    "'a{2,5}b{3,}', 9",
    "[a{9}]{2}, 2",
    "[]{9}]{2}, 2",
    "[[:alpha:]{9}]{2}, 2",
    "\\{9}{2}, 2",
    "\\p{Greek}{3}, 3",
    "x{a}, 4",
    "(a{3}, 3",
  })
  void aPatternIsAsLargeAsItIsWrittenOut(String pattern, long size) {
    assertThat(PatternSize.of(pattern)).isBetween(size, size + 3);
  }

  @Test
  void namesAndPatternsHaveAnEnd() {
    assertThatThrownBy(() -> draft("", "a".repeat(1_001)).checked(NOW))
        .hasMessageContaining("longer than 1000");
    RuleDraft noName = new RuleDraft(" ", "", "a", "Test fault", null, true);
    assertThatThrownBy(() -> noName.checked(NOW)).hasMessageContaining("a name");
  }

  /** Each takes for ever where a pattern is tried by going back. */
  @ParameterizedTest
  @ValueSource(strings = {"(a+)+$", "(a|aa)*b", "(.*)(.*)(.*)(.*)x", "(a?){300}a{300}b"})
  void noPatternHangs(String pattern) {
    Failure failure = new Failure("T", "a".repeat(5_000_000), null);
    assertTimeoutPreemptively(
        Duration.ofSeconds(60), () -> RulePattern.of(pattern).isIn(RulePattern.text(failure)));
  }

  @Test
  void aPatternSeesTypeMessageAndBothEndsOfTheTrace() {
    Failure failure =
        new Failure(
            "org.skerrow.FareException",
            "no fare",
            "at a.b.C\n" + "x\n".repeat(3_000_000) + "Caused by: the root");
    String text = RulePattern.text(failure);
    assertThat(text.length()).isLessThan(70_000);
    assertThat(RulePattern.of("^org\\.skerrow\\.FareException$").isIn(text)).isTrue();
    assertThat(RulePattern.of("^no fare$").isIn(text)).isTrue();
    assertThat(RulePattern.of("^Caused by: the root$").isIn(text)).isTrue();
    assertThat(RulePattern.text(new Failure(null, null, null))).isEmpty();
  }
}
