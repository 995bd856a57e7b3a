package org.vinecellar.core.quarantine.runners;

import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The ID of a test as pytest writes it: {@code tests/test_fares.py::TestRounding::test_half[2]}.
 */
final class NodeId {
  /** A module of tests, by pytest's own names for files. */
  private static final Pattern MODULE = Pattern.compile("test_\\w+|\\w+_test");

  private static final Pattern DOTTED = Pattern.compile("\\w+(?:\\.\\w+)*");

  private NodeId() {}

  /** Empty when it is not known in which file it is. */
  static Optional<String> of(NamedTest test) {
    String dotted = test.suite();
    if (!DOTTED.matcher(dotted).matches()) {
      return Optional.empty();
    }
    String file = test.file();
    String module = file == null ? null : module(file);
    if (module != null && isWithin(dotted, module)) {
      return Optional.of(id(file, dotted.substring(module.length()), test));
    }
    int end = 0;
    int found = -1;
    for (String word : dotted.split("\\.", -1)) {
      end += word.length();
      if (MODULE.matcher(word).matches()) {
        if (found >= 0) {
          return Optional.empty();
        }
        found = end;
      }
      end++;
    }
    return found < 0
        ? Optional.empty()
        : Optional.of(
            id(
                dotted.substring(0, found).replace('.', '/') + ".py",
                dotted.substring(found),
                test));
  }

  private static @Nullable String module(String file) {
    return file.endsWith(".py") && !file.startsWith("-")
        ? file.substring(0, file.length() - 3).replace('\\', '/').replace('/', '.')
        : null;
  }

  private static boolean isWithin(String dotted, String module) {
    return dotted.equals(module) || dotted.startsWith(module + ".");
  }

  /** Classes stand behind the module. */
  private static String id(@Nullable String file, String classes, NamedTest test) {
    return file + classes.replace(".", "::") + "::" + test.whole();
  }
}
