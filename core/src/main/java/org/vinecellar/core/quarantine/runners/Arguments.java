package org.vinecellar.core.quarantine.runners;

import java.util.List;

/**
 * What is given to a runner.
 *
 * @param words one for each argument, none of them quoted; empty when there is no test to tell of
 * @param left tests that could not be told exactly, with why
 */
public record Arguments(List<String> words, List<Left> left) {
  /** Copies the lists. */
  public Arguments {
    words = List.copyOf(words);
    left = List.copyOf(left);
  }

  /** A test that the arguments say nothing of. */
  public record Left(NamedTest test, String why) {}
}
