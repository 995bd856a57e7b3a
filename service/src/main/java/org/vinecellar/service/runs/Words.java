package org.vinecellar.service.runs;

import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.ResultFilter;

/** Words of a query as values. */
final class Words {
  private Words() {}

  static ResultFilter filter(
      @Nullable List<String> outcomes,
      @Nullable String change,
      @Nullable String text,
      boolean setUps,
      boolean overruled) {
    return new ResultFilter(
        outcomes(outcomes == null ? List.of() : outcomes), change(change), text, setUps, overruled);
  }

  static Set<Outcome> outcomes(List<String> words) {
    Set<Outcome> outcomes = EnumSet.noneOf(Outcome.class);
    words.forEach(word -> outcomes.add(find(Outcome.values(), Outcome::word, "outcome", word)));
    return outcomes;
  }

  static @Nullable Change change(@Nullable String word) {
    return word == null ? null : find(Change.values(), Change::word, "change", word);
  }

  static Optional<ResultCursor> cursor(@Nullable String word) {
    if (word == null) {
      return Optional.empty();
    }
    Optional<ResultCursor> cursor = ResultCursor.decode(word);
    if (cursor.isEmpty()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the cursor is not one of ours; begin again without it");
    }
    return cursor;
  }

  private static <T> T find(T[] all, Function<T, String> name, String what, String word) {
    return Arrays.stream(all)
        .filter(value -> name.apply(value).equals(word))
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.INVALID_VALUE,
                    "there is no "
                        + what
                        + " “"
                        + word
                        + "”; there are: "
                        + Arrays.stream(all).map(name).collect(Collectors.joining(", "))));
  }
}
