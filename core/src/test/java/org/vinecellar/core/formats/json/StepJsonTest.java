package org.vinecellar.core.formats.json;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

class StepJsonTest {
  private static final StepJson.Extent ALL = new StepJson.Extent(1_000_000, true, true);
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final String[] WORDS = {"", "quay", "“berth” 3\n\t\\", "é\uD83D\uDEA2", "{}"};

  private static JsonNode again(JsonNode written) throws IOException {
    return JSON.readTree(written.toString());
  }

  private static String word(Random random) {
    return WORDS[random.nextInt(WORDS.length)];
  }

  private static @Nullable String maybe(Random random) {
    return random.nextInt(3) == 0 ? null : word(random);
  }

  private static List<LogLine> lines(Random random) {
    List<LogLine> lines = new ArrayList<>();
    for (int i = random.nextInt(3); i > 0; i--) {
      Instant time = random.nextBoolean() ? null : Instant.ofEpochMilli(random.nextInt());
      lines.add(new LogLine(time, maybe(random), word(random)));
    }
    return lines;
  }

  private static List<Step> steps(Random random, int depth) {
    List<Step> steps = new ArrayList<>();
    for (int i = random.nextInt(4); i > 0; i--) {
      Failure failure =
          random.nextInt(3) == 0 ? new Failure(maybe(random), maybe(random), maybe(random)) : null;
      List<List<String>> table =
          random.nextInt(3) == 0
              ? List.of(List.of("port", word(random)), List.of("x", ""))
              : List.of();
      steps.add(
          new Step(
              maybe(random),
              word(random),
              Outcome.values()[random.nextInt(Outcome.values().length)],
              maybe(random),
              random.nextBoolean() ? TestResult.NO_DURATION : random.nextInt(1_000_000),
              failure,
              maybe(random),
              table,
              lines(random),
              random.nextBoolean() ? List.of() : List.of(0, 7),
              depth == 0 ? List.of() : steps(random, depth - 1)));
    }
    return steps;
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12})
  void whatIsWrittenIsRead(int seed) throws IOException {
    List<Step> steps = steps(new Random(seed), 4);
    assertThat(StepJson.steps(again(StepJson.ofSteps(steps, ALL)))).isEqualTo(steps);
    List<LogLine> lines = lines(new Random(seed));
    assertThat(StepJson.logs(again(StepJson.ofLogs(lines, ALL)))).isEqualTo(lines);
  }

  private static Step step(@Nullable Failure failure, List<Integer> attachments, List<Step> inner) {
    return new Step(
        null,
        "boards",
        Outcome.FAILED,
        null,
        TestResult.NO_DURATION,
        failure,
        null,
        List.of(),
        List.of(),
        attachments,
        inner);
  }

  @Test
  void nothingIsWrittenWhereNothingIsTold() {
    assertThat(StepJson.ofSteps(List.of(step(null, List.of(), List.of())), ALL).toString())
        .isEqualTo("[{\"text\":\"boards\",\"outcome\":" + Outcome.FAILED.code() + "}]");
  }

  @Test
  void anExtentLeavesOutAndCuts() throws IOException {
    StepJson.Extent little = new StepJson.Extent(5, false, false);
    Step whole = step(new Failure("T", "too long a text", "trace"), List.of(3), List.of());
    Step read = StepJson.steps(again(StepJson.ofSteps(List.of(whole), little))).get(0);
    assertThat(read.attachments()).isEmpty();
    assertThat(read.failure())
        .isEqualTo(new Failure("T", "too l\n… the rest comes at the end", null));
  }

  @Test
  void stepsThatAreNestedWithoutEndEnd() throws IOException {
    Step deep = step(null, List.of(), List.of());
    for (int i = 0; i < 400; i++) {
      deep = step(null, List.of(), List.of(deep));
    }
    int depth = 0;
    List<Step> at = StepJson.steps(again(StepJson.ofSteps(List.of(deep), ALL)));
    while (!at.isEmpty()) {
      at = at.get(0).steps();
      depth++;
    }
    assertThat(depth).isBetween(50, 60);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "[{\"text\":\"a\",\"outcome\":99}]",
        "[{\"text\":\"a\",\"outcome\":1,\"logs\":[{\"time\":\"yesterday\",\"text\":\"x\"}]}]"
      })
  void whatCannotBeIsRefused(String json) {
    assertThatThrownBy(() -> StepJson.steps(JSON.readTree(json)))
        .isInstanceOfAny(IllegalArgumentException.class, java.time.DateTimeException.class);
  }

  @Test
  void charactersThatNoDatabaseTakesAreReplaced() throws IOException {
    Step step = StepJson.steps(JSON.readTree("[{\"text\":\"a\\u0000b\",\"outcome\":1}]")).get(0);
    assertThat(step.text()).isEqualTo("a\uFFFDb");
  }
}
