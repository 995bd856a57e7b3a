package org.vinecellar.core.changes;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;

class StepsBesideTest {
  private static final Random RANDOM = new Random(71);

  /**
   * Words are steps, one with an exclamation mark failed; what is in parentheses is inside the one
   * before.
   */
  private static List<Step> steps(String text) {
    List<Step> steps = new ArrayList<>();
    int at = 0;
    while (at < text.length()) {
      int end = at;
      int open = 0;
      while (end < text.length() && (open > 0 || text.charAt(end) != ',')) {
        open += text.charAt(end) == '(' ? 1 : text.charAt(end) == ')' ? -1 : 0;
        end++;
      }
      String one = text.substring(at, end).strip();
      int inside = one.indexOf('(');
      String name = inside < 0 ? one : one.substring(0, inside).strip();
      Outcome outcome = name.endsWith("!") ? Outcome.FAILED : Outcome.PASSED;
      steps.add(
          Step.of(
              name.replace("!", ""),
              outcome,
              1,
              inside < 0 ? List.of() : steps(one.substring(inside + 1, one.length() - 1))));
      at = end + 1;
    }
    return steps;
  }

  private static String told(StepsBeside.Row row) {
    Step before = row.before();
    Step now = row.now();
    String sign = before == null ? "+" : now == null ? "-" : row.differs() ? "*" : "";
    return row.depth() + sign + Objects.requireNonNull(now == null ? before : now).text();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "a, b, c | a, b, c | 0a 0b 0c",
        "a, b, c | a, b!, c | 0a 0*b 0c",
        "a, c | a, b, c | 0a 0+b 0c",
        "a, b, c | a, c | 0a 0-b 0c",
        "a, b | b, a | 0-a 0b 0+a",
        "a (b, c), d | a (b, c!), d | 0a 1b 1*c 0d",
        "a (b), c | c | 0-a 1-b 0c",
        "waits 3 s, pays | waits 12.5 s, pays | 0waits 12.5 s 0pays",
        "page 1, page 2, page 3 | page 2, page 3 | 0-page 1 0page 2 0page 3",
        "opens 'x', opens 'y' | opens 'y' | 0-opens 'x' 0opens 'y'",
        "opens 'x' | shuts 'x' | 0-opens 'x' 0+shuts 'x'",
        "a, a, b | a, b, b | 0a 0-a 0+b 0b",
      })
  void stepsAreSetBesideEachOther(String before, String now, String expected) {
    assertThat(
            StepsBeside.of(steps(before), steps(now)).stream().map(StepsBesideTest::told).toList())
        .containsExactly(expected.split(" (?=[0-9][-+*]?[a-z])"));
  }

  /** Both are there whole, in their order, and no pairing has more in common. */
  @Test
  void nothingIsLeftOutAndNoMoreCouldBePaired() {
    for (int round = 0; round < 400; round++) {
      List<Step> before = random(3, 1 + RANDOM.nextInt(9));
      List<Step> now = random(3, 1 + RANDOM.nextInt(9));
      List<StepsBeside.Row> rows = StepsBeside.of(before, now);
      assertThat(side(rows, StepsBeside.Row::before)).isEqualTo(flat(before, 0));
      assertThat(side(rows, StepsBeside.Row::now)).isEqualTo(flat(now, 0));
      long paired =
          rows.stream()
              .filter(row -> row.depth() == 0 && row.before() != null && row.now() != null)
              .count();
      assertThat(paired).isEqualTo(common(before, now, 0, 0));
      assertThat(StepsBeside.of(before, before)).noneMatch(StepsBeside.Row::differs);
    }
  }

  /** What is too long to try each with each is cut where both agree, and is whole all the same. */
  @Test
  void longOnesAreWhole() {
    List<Step> before = IntStream.range(0, 5_000).mapToObj(i -> named(i % 2, i)).toList();
    List<Step> now =
        IntStream.range(0, 5_000)
            .filter(i -> i % 7 != 0)
            .mapToObj(i -> named(i % 2, i % 11 == 0 ? i + 9_000 : i))
            .toList();
    List<StepsBeside.Row> rows = StepsBeside.of(before, now);
    assertThat(side(rows, StepsBeside.Row::before)).isEqualTo(flat(before, 0));
    assertThat(side(rows, StepsBeside.Row::now)).isEqualTo(flat(now, 0));
    assertThat(rows.stream().filter(row -> row.now() != null && row.before() != null).count())
        .isGreaterThan(now.size() * 9L / 10);
    List<Step> same = IntStream.range(0, 5_000).mapToObj(i -> named(0, 7)).toList();
    List<Step> other = IntStream.range(0, 4_999).mapToObj(i -> named(1, 7)).toList();
    assertThat(StepsBeside.of(same, other)).hasSize(9_999);
  }

  private static Step named(int kind, int number) {
    return Step.of(
        (kind == 0 ? "opens page " : "leaves page ") + number, Outcome.PASSED, 1, List.of());
  }

  private static List<Step> random(int deep, int most) {
    return IntStream.range(0, RANDOM.nextInt(most + 1))
        .mapToObj(
            i ->
                Step.of(
                    "step " + (char) ('a' + RANDOM.nextInt(4)),
                    Outcome.values()[RANDOM.nextInt(2)],
                    1,
                    deep == 0 ? List.of() : random(deep - 1, 3)))
        .toList();
  }

  private static List<String> side(
      List<StepsBeside.Row> rows, Function<StepsBeside.Row, @Nullable Step> of) {
    List<String> side = new ArrayList<>();
    for (StepsBeside.Row row : rows) {
      Step step = of.apply(row);
      if (step != null) {
        side.add(row.depth() + step.text() + step.outcome());
      }
    }
    return side;
  }

  private static List<String> flat(List<Step> steps, int depth) {
    List<String> flat = new ArrayList<>();
    for (Step step : steps) {
      flat.add(depth + step.text() + step.outcome());
      flat.addAll(flat(step.steps(), depth + 1));
    }
    return flat;
  }

  /** Tries all. */
  private static int common(List<Step> before, List<Step> now, int i, int j) {
    if (i == before.size() || j == now.size()) {
      return 0;
    }
    if (before.get(i).text().equals(now.get(j).text())) {
      return 1 + common(before, now, i + 1, j + 1);
    }
    return Math.max(common(before, now, i + 1, j), common(before, now, i, j + 1));
  }
}
