package org.vinecellar.service.runs;

import java.util.Optional;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Words of a query as values. */
final class Words {
  private Words() {}

  /**
   * Where the page before ended.
   *
   * @param decode empty for what is no cursor
   */
  static <T> Optional<T> cursor(@Nullable String word, Function<String, Optional<T>> decode) {
    if (word == null) {
      return Optional.empty();
    }
    Optional<T> cursor = decode.apply(word);
    if (cursor.isEmpty()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the cursor is not one of ours; begin again without it");
    }
    return cursor;
  }
}
