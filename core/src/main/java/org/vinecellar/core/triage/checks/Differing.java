package org.vinecellar.core.triage.checks;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The fields in which two printed values differ, where a check library prints the difference line
 * by line.
 */
final class Differing {
  private static final int MAX_LINES = 400;

  private static final Pattern LINE =
      Pattern.compile(
          "^[ \\t]*(?:E[ \\t]+)?([-+])[ \\t]*(?:[\\w.]+\\{)?[ \\t]*[\"':]?([A-Za-z_][\\w.-]{0,80})[\"']?[ \\t]*(?:=>|[:=])[ \\t]*(.{0,200}?),?[ \\t]*$",
          Pattern.MULTILINE);

  private static final Pattern PAIR =
      Pattern.compile(
          "[\"':]?\\b([A-Za-z_][\\w.-]{0,80})[\"']?\\s*(?:=>|[:=])\\s*(\"(?:[^\"\\\\]|\\\\.)*\"|'[^']*'|[^,;{}\\[\\]()\\n]+)");

  private Differing() {}

  /**
   * The fields whose values differ in two values that are printed with their fields; null when they
   * are not.
   */
  static @Nullable String between(String one, String other) {
    Map<String, String> left = pairs(one);
    Map<String, String> right = pairs(other);
    Set<String> names = new TreeSet<>(left.keySet());
    names.retainAll(right.keySet());
    int common = names.size();
    names.removeIf(name -> Objects.equals(left.get(name), right.get(name)));
    boolean shaped = common > names.size() || common > 0 && one.strip().startsWith("{");
    return names.isEmpty() || names.size() > 4 || !shaped ? null : String.join(" ", names);
  }

  private static Map<String, String> pairs(String value) {
    Map<String, String> pairs = new LinkedHashMap<>();
    Matcher pair = PAIR.matcher(value.length() > 4_000 ? value.substring(0, 4_000) : value);
    while (pairs.size() < 100 && pair.find()) {
      pairs.putIfAbsent(pair.group(1), pair.group(2).strip());
    }
    return pairs;
  }

  /** Their names, in the order of the alphabet; null when no difference is printed so. */
  static @Nullable String field(String text) {
    if (text.indexOf("\n+") < 0 && text.indexOf("+ ") < 0 && text.indexOf("+\t") < 0) {
      return null;
    }
    Map<String, List<String>> taken = new LinkedHashMap<>();
    Map<String, List<String>> added = new LinkedHashMap<>();
    Matcher line = LINE.matcher(text);
    int lines = 0;
    while (lines++ < MAX_LINES && line.find()) {
      Map<String, List<String>> side = line.group(1).equals("-") ? taken : added;
      side.computeIfAbsent(line.group(2), k -> new ArrayList<>()).add(line.group(3));
    }
    Set<String> names = new LinkedHashSet<>(taken.keySet());
    names.retainAll(added.keySet());
    names.removeIf(name -> Objects.equals(taken.get(name), added.get(name)));
    if (names.isEmpty()) {
      names.addAll(taken.keySet());
      names.addAll(added.keySet());
      names.removeAll(
          Set.of("Expected", "Received", "expected", "actual", "Actual", "got", "want"));
    }
    return names.isEmpty() || names.size() > 4 ? null : String.join(" ", new TreeSet<>(names));
  }
}
