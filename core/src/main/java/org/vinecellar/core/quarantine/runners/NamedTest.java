package org.vinecellar.core.quarantine.runners;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;

/**
 * A test as those who run it may know it.
 *
 * @param file its source file, as told last; null when not told
 */
public record NamedTest(KeptTest test, @Nullable String file) {
  /** The name of the innermost suite; empty for none. */
  String suite() {
    List<String> suite = test.suite();
    return suite.isEmpty() ? "" : suite.get(suite.size() - 1);
  }

  String name() {
    return test.name();
  }

  /** The name with its parameters. */
  String whole() {
    return test.parameters() == null ? test.name() : test.name() + test.parameters();
  }
}
