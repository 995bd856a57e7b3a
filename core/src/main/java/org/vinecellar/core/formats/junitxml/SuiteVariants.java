package org.vinecellar.core.formats.junitxml;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.Variant;

/**
 * What tells suites of one name in a file apart. Playwright writes a suite for each source file and
 * project, and the project's name where others have the machine's: there it always counts.
 * Elsewhere a machine counts only where suites of one name come from several.
 */
final class SuiteVariants {
  private static final Pattern SCRIPT = Pattern.compile(".*\\.[cm]?[jt]sx?");

  /** Machines that are made for one night have names like this; their order is all that lasts. */
  private static final Pattern LASTING =
      Pattern.compile("[A-Za-z]+(?:[-_.][A-Za-z]+)*[-_.]?\\d{0,3}");

  private static final int MOST_SUITES = 20_000;
  private static final int MOST_HOSTS = 100;

  private final Map<Key128, List<String>> hosts = new HashMap<>();
  private final boolean rootHasId;
  private final Problems problems;
  private boolean told;

  /**
   * @param rootHasId whether the outermost element has an {@code id}
   */
  SuiteVariants(boolean rootHasId, Problems problems) {
    this.rootHasId = rootHasId;
    this.problems = problems;
  }

  /** Of a suite that begins. */
  Variant of(SuitePath path, @Nullable String name, @Nullable String hostname) {
    if (hostname == null || hostname.isBlank() || name == null) {
      return Variant.NONE;
    }
    if (rootHasId && SCRIPT.matcher(name).matches()) {
      return Variant.told("project", hostname);
    }
    if (hosts.size() == MOST_SUITES && !hosts.containsKey(path.key())) {
      if (!told) {
        told = true;
        problems.add(
            "has more than "
                + MOST_SUITES
                + " suites; of the others it is not looked at which machine they come from");
      }
      return Variant.NONE;
    }
    List<String> known = hosts.computeIfAbsent(path.key(), key -> new ArrayList<>(1));
    int at = known.indexOf(hostname);
    if (at < 0 && known.size() == MOST_HOSTS) {
      return Variant.told("host", hostname);
    }
    if (at < 0) {
      at = known.size();
      known.add(hostname);
    }
    return at == 0
        ? Variant.NONE
        : Variant.told(
            "host", LASTING.matcher(hostname).matches() ? hostname : Integer.toString(at + 1));
  }
}
