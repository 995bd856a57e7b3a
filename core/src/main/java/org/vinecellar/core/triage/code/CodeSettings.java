package org.vinecellar.core.triage.code;

import java.util.List;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What a project says of its code where names alone do not tell.
 *
 * @param own beginnings of packages, namespaces or paths that are ours
 * @param helpers parts of qualified names or paths that are helpers
 */
public record CodeSettings(List<String> own, List<String> helpers) {
  private static final int MOST = 200;
  private static final int LONGEST = 200;

  /** Nothing said. */
  public static final CodeSettings NONE = new CodeSettings(List.of(), List.of());

  /** Copies the lists. */
  public CodeSettings {
    own = List.copyOf(own);
    helpers = List.copyOf(helpers);
  }

  /**
   * The same without what says nothing.
   *
   * @throws CellarException {@code INVALID_VALUE} when it is too much
   */
  public CodeSettings checked() {
    return new CodeSettings(checked("own", own), checked("helpers", helpers));
  }

  private static List<String> checked(String what, List<String> given) {
    List<String> some =
        given.stream().map(String::strip).filter(one -> !one.isEmpty()).distinct().toList();
    for (String one : some) {
      if (one.length() > LONGEST) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            what + ": “" + one.substring(0, 40) + "…” is longer than " + LONGEST + " characters");
      }
      if (one.length() < 2) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            what + ": “" + one + "” would be said of nearly all code; say more of the name");
      }
    }
    if (some.size() > MOST) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          what + " has " + some.size() + " lines; up to " + MOST + " do");
    }
    return some;
  }
}
