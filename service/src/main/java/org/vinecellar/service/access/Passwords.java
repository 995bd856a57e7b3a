package org.vinecellar.service.access;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Which passwords will do: long enough, and none that somebody would try first. */
final class Passwords {
  private static final int SHORTEST = 12;

  /** What bcrypt looks at; the rest of a longer one would not count. */
  private static final int LONGEST_BYTES = 72;

  /** So much must be left when one’s own name is taken out, however often it is there. */
  private static final int BESIDE_THE_NAME = 6;

  private static final int FEWEST_CHARACTERS = 5;

  private static final Set<String> KNOWN = known();

  private Passwords() {}

  private static Set<String> known() {
    try (InputStream in = Passwords.class.getResourceAsStream("/passwords.txt")) {
      if (in == null) {
        throw new IllegalStateException("passwords.txt is missing in the service");
      }
      return new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))
          .lines()
          .filter(line -> !line.isBlank() && !line.startsWith("#"))
          .map(Passwords::plain)
          .collect(Collectors.toUnmodifiableSet());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * Letters in place of the digits and signs that stand for them; nothing but letters and digits.
   */
  private static String plain(String password) {
    return password
        .toLowerCase(Locale.ROOT)
        .replace('0', 'o')
        .replace('1', 'i')
        .replace('!', 'i')
        .replace('3', 'e')
        .replace('4', 'a')
        .replace('@', 'a')
        .replace('5', 's')
        .replace('$', 's')
        .replace('7', 't')
        .replaceAll("[^\\p{L}\\p{N}]", "");
  }

  /** The same without the year, number or sign that somebody put before or after it. */
  private static String bare(String password) {
    return plain(password.replaceAll("^[^\\p{L}]+|[^\\p{L}]+$", ""));
  }

  /**
   * Checks one that somebody chose.
   *
   * @throws CellarException {@code INVALID_VALUE} that says what is missing
   */
  static void check(@Nullable String password, String login) {
    int bytes = password == null ? 0 : password.getBytes(StandardCharsets.UTF_8).length;
    if (password == null || password.length() < SHORTEST || bytes > LONGEST_BYTES) {
      throw invalid(
          "must have at least "
              + SHORTEST
              + " characters, and at most "
              + LONGEST_BYTES
              + " bytes");
    }
    if (password.indexOf('\0') >= 0) {
      throw invalid("holds a NUL character");
    }
    if (password.chars().distinct().count() < FEWEST_CHARACTERS || isRow(password)) {
      throw invalid("repeats itself; choose one that nobody can guess");
    }
    String plain = plain(password);
    String name = plain(login);
    if (isKnown(plain)
        || isKnown(bare(password))
        || name.length() > 3
            && plain.contains(name)
            && plain.replace(name, "").length() < BESIDE_THE_NAME) {
      throw invalid("is one of those that are tried first; choose one that nobody can guess");
    }
  }

  /** A known one, alone or several times. */
  private static boolean isKnown(String plain) {
    for (int parts = 1; parts <= 4; parts++) {
      int length = plain.length() / parts;
      if (length * parts == plain.length()
          && KNOWN.contains(plain.substring(0, length))
          && plain.equals(plain.substring(0, length).repeat(parts))) {
        return true;
      }
    }
    return false;
  }

  /** Each character follows the one before, as in abcdefghijkl and 123456789012. */
  private static boolean isRow(String password) {
    int steps = 0;
    for (int i = 1; i < password.length(); i++) {
      int step = password.charAt(i) - password.charAt(i - 1);
      steps += Math.abs(step) <= 1 || Math.abs(step) == 9 ? 1 : 0;
    }
    return steps >= password.length() - 2;
  }

  private static CellarException invalid(String how) {
    return new CellarException(ProblemCode.INVALID_VALUE, "the new password " + how);
  }
}
