package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.trust.flaky.Verdict;

/** Filters that name others. */
class SavedTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");

  private static SavedNames names(String... lines) {
    Map<String, SavedFilter> all = new HashMap<>();
    for (String line : lines) {
      String[] parts = line.split(":", 4);
      all.put(
          parts[0] + " " + parts[1],
          new SavedFilter(parts[1], Thing.ofWord(parts[2]).orElseThrow(), parts[3].strip()));
    }
    return new SavedNames() {
      @Override
      public @Nullable SavedFilter shared(String name) {
        return all.get("saved " + name);
      }

      @Override
      public @Nullable SavedFilter mine(String name) {
        return all.get("mine " + name);
      }
    };
  }

  private static final SavedNames NAMES =
      names(
          "saved:Nights:run: branch eq \"main\" or stream ew \"nightly\"",
          "saved:Red:result: outcome eq \"failed\" and run[saved eq \"Nights\"]",
          "mine:Red:result: outcome eq \"errored\"",
          "saved:Round:run: failed gt 0 and saved eq \"About\"",
          "saved:About:run: not (saved eq \"Round\")",
          "saved:Wrong:run: branc eq \"x\"",
          "saved:Many:run:" + " failed gt 0 and".repeat(150) + " failed gt 0",
          "saved:Twice:run: saved eq \"Many\" or saved eq \"Many\"");

  /** A filter, and what it asks written out. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "run | failed gt 0 and saved eq \"Nights\""
            + " | failed gt 0 and (branch eq \"main\" or stream ew \"nightly\")",
        "run | Saved ne \"Nights\" | not (branch eq \"main\" or stream ew \"nightly\")",
        "result | saved eq \"Red\" or mine eq \"Red\" | outcome eq \"failed\" and run[branch eq"
            + " \"main\" or stream ew \"nightly\"] or outcome eq \"errored\"",
        "test | results[saved eq \"Red\" and setUp eq false] | results[(outcome eq \"failed\" and"
            + " run[branch eq \"main\" or stream ew \"nightly\"]) and setUp eq false]",
      })
  void standsForWhatItSays(String thing, String text, String plain) {
    Thing of = Thing.ofWord(thing).orElseThrow();
    assertThat(flat(Resolver.read(text, of, NOW, NAMES)))
        .isEqualTo(flat(Resolver.read(plain, of, NOW)));
  }

  /** Without the brackets that a name puts around what it stands for. */
  private static Criterion flat(Criterion one) {
    if (one instanceof Criterion.All all) {
      return new Criterion.All(
          all.of().stream()
              .map(SavedTest::flat)
              .flatMap(
                  inner ->
                      inner instanceof Criterion.All more
                          ? more.of().stream()
                          : java.util.stream.Stream.of(inner))
              .toList());
    }
    if (one instanceof Criterion.Any any) {
      return new Criterion.Any(any.of().stream().map(SavedTest::flat).toList());
    }
    if (one instanceof Criterion.Not not) {
      return new Criterion.Not(flat(not.of()));
    }
    return one instanceof Criterion.Within within
        ? new Criterion.Within(within.relation(), flat(within.of()))
        : one;
  }

  /** A filter, and what is said of it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "run | saved eq \"Night\" | 10: there is no saved filter “Night” in this project",
        "run | mine eq \"Nights\" | 9: you have no filter of your own that is called “Nights”;"
            + " where somebody else has one, ask them to share it",
        "result | saved eq \"Nights\" | 10: “Nights” is a filter of runs, not of results; ask"
            + " run[saved eq \"Nights\"]",
        "run | saved eq \"Red\" | 10: “Red” is a filter of results, not of runs; ask results[saved"
            + " eq \"Red\"]",
        "run | saved co \"Ni\" | 7: a saved filter is named by eq, or by ne where it does not fit",
        "run | saved eq 3 | 10: the name of a saved filter stands in quotes",
        "run | saved pr | 1: “saved” needs a name, as in saved eq \"Nights\"",
        "run | saved eq \"Round\" | 10: in “Round”: “Round” names itself, by way of others or not",
        "run | saved eq \"Wrong\" | 10: in “Wrong”: a run has no “branc”; did you mean “branch”?",
        "run | saved eq \"Twice\" | 10: in “Twice”: a filter has at most 200 comparisons, with those of the"
            + " saved filters that it names",
        "run | saved.x eq \"Nights\" | 1: a run has no “saved”",
      })
  void saysWhatIsWrong(String thing, String text, String message) {
    assertThatThrownBy(() -> Resolver.read(text, Thing.ofWord(thing).orElseThrow(), NOW, NAMES))
        .isInstanceOf(FilterException.class)
        .hasMessageStartingWith("filter, position " + message);
    assertThatThrownBy(() -> Resolver.read("saved eq \"Nights\"", Thing.RUN, NOW))
        .hasMessageContaining("saved filters cannot be named here; write out what it picks");
  }

  /** A word, a name, the next word, the next name, a filter and the same with that. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "saved | a | saved | b \"c\" | saved  eq \"a\" | saved  eq \"b \\\"c\\\"\"",
        "saved | a | saved | b | not (SAVED ne \"a\") and mine eq \"a\" | not (saved ne \"b\") and"
            + " mine eq \"a\"",
        "mine | a | saved | a | run[mine eq \"\\u0061\"]or(mine eq \"ab\") | run[saved eq"
            + " \"a\"]or(mine eq \"ab\")",
        "saved | a | saved | b | name eq \"saved eq \\\"a\\\"\" | name eq \"saved eq \\\"a\\\"\"",
        "saved | a | saved | b | saved eq \"a\" and | saved eq \"a\" and",
      })
  void isNamedAnew(
      String word, String name, String nextWord, String next, String text, String changed) {
    assertThat(SavedUses.renamed(text, word, name, nextWord, next)).isEqualTo(changed);
    if (!text.equals(changed)) {
      assertThat(SavedUses.in(text, word)).contains(name);
      assertThat(SavedUses.in(changed, word)).doesNotContain(name);
      assertThat(SavedUses.in(changed, nextWord)).contains(next);
    }
  }

  /** What somebody wants to keep, and what is said of it; nothing when it can be kept. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "New | failed gt 0 | true | ``",
        "New | mine eq \"Red\" | true | what others see cannot hang on a filter of your own; share"
            + " “Red” first",
        "New | results[mine eq \"Red\"] | false | ``",
        "Nights | failed gt 0 and saved eq \"Nights\" | true | “Nights” names itself",
        "About | saved eq \"Round\" | true | names itself",
        "Other | failed gt 0 or saved eq \"Red\" | true | is a filter of results",
        "`` | failed gt 0 | true | a saved filter needs a name",
        "New | `` | true | this one is empty",
        "New | failed gt | true | position 10",
      })
  void isCheckedBeforeItIsKept(String name, String text, boolean shared, String said) {
    SavedFilter filter = new SavedFilter(name, Thing.RUN, text);
    if (said.isEmpty()) {
      filter.check(NAMES, shared, null, NOW);
    } else {
      assertThatThrownBy(() -> filter.check(NAMES, shared, null, NOW)).hasMessageContaining(said);
    }
  }

  /** With its new name it would lead back to itself, by way of those that have its old one. */
  @Test
  void knowsItselfByItsOldNameToo() {
    SavedNames others =
        names("saved:Old:run: failed gt 0", "saved:Next:run: saved eq \"Old\" and errored gt 0");
    SavedFilter next = new SavedFilter("New", Thing.RUN, "saved eq \"Next\"");
    assertThatThrownBy(() -> next.check(others, true, "Old", NOW))
        .hasMessageContaining("names itself");
    next.check(others, true, null, NOW);
  }

  /** Nobody builds a filter that is read for ever out of small ones. */
  @Test
  void isReadInTime() {
    String[] lines = new String[60];
    lines[0] = "saved:0:run: failed gt 0";
    for (int i = 1; i < lines.length; i++) {
      lines[i] =
          "saved:" + i + ":run: saved eq \"" + (i - 1) + "\" or saved eq \"" + (i - 1) + "\"";
    }
    assertThatThrownBy(() -> Resolver.read("saved eq \"59\"", Thing.RUN, NOW, names(lines)))
        .hasMessageContaining("at most 200 comparisons");
  }

  @Test
  void verdictsAreThoseOfTheProduct() {
    assertThat(Attribute.VERDICT_IS.choices())
        .containsExactlyElementsOf(Arrays.stream(Verdict.values()).map(Verdict::word).toList());
  }
}
