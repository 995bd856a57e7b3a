package org.vinecellar.core.boards;

import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What runs are told apart by.
 *
 * @param key of the label; null for the other ways
 */
public record Dimension(Way way, @Nullable String key) {
  private static final String LABEL = "label.";
  private static final int LONGEST = 60;

  /** The ways. */
  public enum Way {
    STREAM,
    BRANCH,
    LABEL
  }

  /** Checks that a label has a key. */
  public Dimension {
    Objects.requireNonNull(way);
    if ((way == Way.LABEL) != (key != null)) {
      throw new IllegalArgumentException("only a label has a key");
    }
  }

  /**
   * As it is written: {@code stream}, {@code branch}, {@code label.team}.
   *
   * @throws CellarException when it is none of these
   */
  public static Dimension of(String word) {
    if (word.startsWith(LABEL)
        && word.length() > LABEL.length()
        && word.length() <= LABEL.length() + LONGEST) {
      return new Dimension(Way.LABEL, word.substring(LABEL.length()));
    }
    return switch (word) {
      case "stream" -> new Dimension(Way.STREAM, null);
      case "branch" -> new Dimension(Way.BRANCH, null);
      default ->
          throw new CellarException(
              ProblemCode.INVALID_VALUE,
              "runs are told apart by “stream”, “branch” or a label such as “label.team”, not by “"
                  + word
                  + "”");
    };
  }

  /** What {@link #of} reads. */
  public String word() {
    return key == null ? way.name().toLowerCase(Locale.ROOT) : LABEL + key;
  }
}
