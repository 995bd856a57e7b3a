package org.vinecellar.core.formats.javascript;

import java.util.ArrayList;
import java.util.List;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/** Tries before the last one, of which a file tells only how many there were. */
final class EarlierTries {
  private static final int MOST = 100;

  private EarlierTries() {}

  /** So many tries that failed for a reason that the file does not tell; the list may grow. */
  static List<Attempt> untold(int number) {
    List<Attempt> tries = new ArrayList<>();
    for (int i = 0; i < Math.min(number, MOST); i++) {
      tries.add(
          new Attempt(
              Outcome.FAILED,
              TestResult.NO_DURATION,
              List.of(new Failure(null, "the file does not say why this try failed", null)),
              null,
              null));
    }
    return tries;
  }
}
