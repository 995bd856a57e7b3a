package org.vinecellar.core.triage.desk;

import java.util.Objects;
import java.util.Set;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * What people call a failure group: what its sentence names where that names what is wrong, else
 * the first line of its error.
 *
 * @param beside what tells more of it: the other one of the two
 * @param fromError whether the text is of the error, so that a {@code #} in it stands for a value;
 *     else one in what stands beside it does
 */
public record Title(String text, String beside, boolean fromError) {
  /** Kinds whose sentence names the thing that is wrong, which the error may not. */
  private static final Set<KeyKind> NAMING =
      Set.of(KeyKind.ENVIRONMENT, KeyKind.CODE, KeyKind.SUBJECT);

  /** Checks nulls. */
  public Title {
    Objects.requireNonNull(text);
    Objects.requireNonNull(beside);
  }

  /**
   * Of a group.
   *
   * @param sentence why it is one group, with names of programs in back quotes
   * @param template its error, with a hole for each value
   */
  public static Title of(KeyKind kind, String sentence, String template) {
    String plain = sentence.replace("`", "");
    String error = firstLine(template);
    return NAMING.contains(kind) || error.isEmpty()
        ? new Title(capital(sentence).replace("`", ""), error.isEmpty() ? plain : error, false)
        : new Title(error, plain, true);
  }

  /** The first line that says something. */
  private static String firstLine(String template) {
    return template
        .lines()
        .filter(line -> line.chars().anyMatch(Character::isLetter))
        .findFirst()
        .orElse("")
        .strip();
  }

  /** A name of a program stays as it is. */
  private static String capital(String text) {
    return text.isEmpty()
        ? text
        : text.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + text.substring(1);
  }
}
