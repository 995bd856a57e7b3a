package org.vinecellar.core.triage.checks;

import java.util.regex.Pattern;

/** Paths of files and routes without what belongs to a machine or a single request. */
final class Paths {
  private static final Pattern UUID =
      Pattern.compile("[0-9a-fA-F]{8}-(?:[0-9a-fA-F]{4}-){3}[0-9a-fA-F]{12}");

  private static final Pattern ID =
      Pattern.compile(
          "[0-9].*|[0-9a-fA-F]{8,}|[A-Za-z]{1,8}[-_]?\\d{3,}[\\w-]*|(?=[\\w-]*\\d)(?=[\\w-]*[A-Z])[\\w-]{8,}|[^/]*@[^/]*|\\{[^/]*\\}|:[A-Za-z]\\w*|<[^/]*>|\\$\\{?\\w+\\}?|%7B.*|\\[[^/]*\\]");

  private Paths() {}

  /** The name of a file, with a hole for numbers that tell one file of many. */
  static String last(String path) {
    String plain = path.replace('\\', '/');
    while (plain.endsWith("/")) {
      plain = plain.substring(0, plain.length() - 1);
    }
    String name = plain.substring(plain.lastIndexOf('/') + 1);
    return UUID.matcher(name)
        .replaceAll("#")
        .replaceAll(
            "\\d{4,}|(?<=[a-z_-])(?=[a-z0-9]*\\d[a-z0-9]*\\d)(?=[a-z0-9]*[a-z])[a-z0-9]{8,}(?=\\.|$)",
            "#");
  }

  /** A route without ids and query, e.g. {@code /fares/{}/seats}. */
  static String route(String path) {
    int end = path.length();
    for (int i = 0; i < end; i++) {
      char c = path.charAt(i);
      if (c == '?' || c == '#' || c == ';') {
        end = i;
      }
    }
    StringBuilder out = new StringBuilder();
    for (String segment : path.substring(0, end).split("/")) {
      if (segment.isEmpty()) {
        continue;
      }
      boolean version = segment.matches("v\\d{1,2}");
      out.append('/')
          .append(
              !version && (UUID.matcher(segment).matches() || ID.matcher(segment).matches())
                  ? "{}"
                  : segment);
    }
    return out.length() == 0 ? "/" : out.toString();
  }
}
