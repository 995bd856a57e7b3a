package org.vinecellar.core.edits;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.edits.Edit.Difference;
import org.vinecellar.core.problem.CellarException;

class NotesTest {
  private static Map<String, String> labels(Random random) {
    Map<String, String> labels = new HashMap<>();
    for (int i = random.nextInt(5); i > 0; i--) {
      labels.put("k" + random.nextInt(5), "v" + random.nextInt(3));
    }
    return labels;
  }

  @RepeatedTest(50)
  void editedLabelsGiveWhatWasWantedAndLaterUploadsTheRest(RepetitionInfo info) {
    Random random = new Random(info.getCurrentRepetition());
    Map<String, String> reported = labels(random);
    Map<String, String> wanted = labels(random);
    LabelEdits edits = LabelEdits.from(reported, wanted);

    assertThat(edits.over(reported)).isEqualTo(wanted);
    assertThat(LabelEdits.from(reported, reported)).isEqualTo(LabelEdits.NONE);
    assertThat(edits.byHand()).hasSize(Differences.between(text(reported), text(wanted)).size());
    Map<String, String> later = labels(random);
    Map<String, String> then = edits.over(later);
    later.forEach(
        (key, value) -> {
          if (!edits.byHand().containsKey(key)) {
            assertThat(then).containsEntry(key, value);
          }
        });
    edits.byHand().forEach((key, value) -> assertThat(then.get(key)).isEqualTo(value));
  }

  private static NoteText text(Map<String, String> labels) {
    return new NoteText(null, labels, List.of());
  }

  @Test
  void differencesAreToldFieldByField() {
    NoteText before = new NoteText("Old", Map.of("team", "fares", "env", "staging"), List.of("a"));
    NoteText after = new NoteText(" ", Map.of("team", "moorings", "env", "staging"), List.of());

    assertThat(Differences.between(before, after))
        .containsExactly(
            new Difference("description", "Old", null),
            new Difference("label team", "fares", "moorings"),
            new Difference("tags", "a", null));
    assertThat(Differences.between(before, before)).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "two words, is not one word",
    "'a,b', is not one word",
    "'', is not one word",
  })
  void aTagIsOneWord(String tag, String told) {
    assertThatThrownBy(() -> new NoteText(null, Map.of(), List.of("smoke", tag)))
        .isInstanceOf(CellarException.class)
        .hasMessageContaining(told);
  }

  @Test
  void limitsAreNamed() {
    refused("20000 characters", "x".repeat(20_001), Map.of(), List.of());
    refused("51 tags", null, Map.of(), IntStream.range(0, 51).mapToObj(i -> "t" + i).toList());
    refused("the label a b", "", Map.of("a b", "x"), List.of());
    refused("the label k is empty", null, Map.of("k", " "), List.of());
    refused("NUL", "a\0b", Map.of(), List.of());
    assertThat(new NoteText(null, Map.of(), Collections.nCopies(99, "smoke")).tags())
        .containsExactly("smoke");
  }

  private static void refused(
      String told, @Nullable String description, Map<String, String> labels, List<String> tags) {
    assertThatThrownBy(() -> new NoteText(description, labels, tags))
        .isInstanceOf(CellarException.class)
        .message()
        .matches(message -> message.replaceAll("[“”]", "").contains(told), told);
  }
}
