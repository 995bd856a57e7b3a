package org.vinecellar.service.triage;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What comes in a request that decides something, looked over. */
final class VerdictWords {
  private static final int MAX_COMMENT = 20_000;

  private VerdictWords() {}

  /** The name of a category; there has to be one. */
  static String category(@Nullable String name) {
    if (name == null || name.isBlank()) {
      throw invalid("say which category, as JSON: category, and perhaps comment and scope");
    }
    return name;
  }

  /** A comment without what no text can hold; null for an empty one. */
  static @Nullable String comment(@Nullable String text) {
    String comment = text == null ? "" : text.replace("\0", "").strip();
    if (comment.length() > MAX_COMMENT) {
      throw invalid("the comment is longer than " + MAX_COMMENT + " characters");
    }
    return comment.isEmpty() ? null : comment;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
