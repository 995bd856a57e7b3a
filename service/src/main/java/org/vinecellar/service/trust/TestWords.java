package org.vinecellar.service.trust;

import java.util.List;
import java.util.stream.Collectors;
import org.vinecellar.core.runs.KeptTest;

/** Names of tests in one line. */
public final class TestWords {
  private TestWords() {}

  /** The innermost suite's name, a hash and the test's name with its parameters. */
  public static String shortly(KeptTest test) {
    List<String> suite = test.suite();
    return (suite.isEmpty() ? "" : suite.get(suite.size() - 1))
        + "#"
        + test.name()
        + (test.parameters() == null ? "" : test.parameters());
  }

  /** The words of its variant as key=value with commas between; empty for none. */
  public static String variant(KeptTest test) {
    return test.variant().entrySet().stream()
        .map(word -> word.getKey() + "=" + word.getValue())
        .collect(Collectors.joining(","));
  }
}
