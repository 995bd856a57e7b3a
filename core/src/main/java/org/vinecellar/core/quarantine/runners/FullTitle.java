package org.vinecellar.core.quarantine.runners;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * The whole title of a test by which its runner looks for it: the titles of the groups around it
 * and its own with blanks between. Some reports tell the groups as suites, some as a part of the
 * name, some as both.
 */
final class FullTitle {
  /** A file is no group; its name stands where a test has none, and around all of them. */
  private static final Pattern FILE =
      Pattern.compile(".*\\.(?:[cm]?[jt]sx?|vue|svelte|rb|feature)|[\\w.]+_spec|\\(no group\\)");

  private FullTitle() {}

  /**
   * With all groups.
   *
   * @param between what stands between the titles where a report joined them; a blank for nothing
   */
  static String of(NamedTest test, String between) {
    return joined(groups(test), test.whole().replace(between, " "));
  }

  /** With the innermost suite alone, which has the titles of those around it. */
  static String ofInnermost(NamedTest test) {
    List<String> groups = groups(test);
    return joined(
        groups.isEmpty() ? groups : groups.subList(groups.size() - 1, groups.size()), test.whole());
  }

  private static List<String> groups(NamedTest test) {
    List<String> groups = new ArrayList<>(test.test().suite());
    groups.removeIf(suite -> FILE.matcher(suite).matches());
    return groups;
  }

  private static String joined(List<String> groups, String name) {
    boolean isTold = !groups.isEmpty() && groups.get(groups.size() - 1).equals(name);
    return isTold || groups.isEmpty() ? name : String.join(" ", groups) + " " + name;
  }
}
