package org.vinecellar.service.boards;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What somebody said, or did not. */
final class Said {
  private Said() {}

  /**
   * It, where it is there.
   *
   * @throws CellarException {@code INVALID_VALUE} when it is not
   */
  static <T> T there(@Nullable T body, String what) {
    if (body == null) {
      throw invalid("say " + what + ", as JSON; see the API’s document for its fields");
    }
    return body;
  }

  static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
