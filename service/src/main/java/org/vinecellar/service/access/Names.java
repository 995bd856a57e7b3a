package org.vinecellar.service.access;

import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Names that people give. */
final class Names {
  private static final Pattern LOGIN = Pattern.compile("[a-z0-9](?:[a-z0-9._@+-]{0,98}[a-z0-9])?");
  private static final int MAX_NAME = 200;

  private Names() {}

  /**
   * A name of anything.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  static String checked(@Nullable String name) {
    if (name == null
        || name.isBlank()
        || name.length() > MAX_NAME
        || name.chars().anyMatch(c -> c < 0x20)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the name is empty, longer than "
              + MAX_NAME
              + " characters, or holds control characters");
    }
    return name.strip();
  }

  /**
   * Under which somebody signs in.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  static String login(@Nullable String typed) {
    String login = typed == null ? "" : meant(typed);
    if (!LOGIN.matcher(login).matches()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the login is not valid; use up to 100 lower-case letters, digits, '.', '_', '-', '+' and"
              + " '@', as in ada or ada@skerrow.example");
    }
    return login;
  }

  /** The login that somebody means who types capitals, as phones do, or a space too many. */
  static String meant(String typed) {
    return typed.strip().toLowerCase(Locale.ROOT);
  }
}
