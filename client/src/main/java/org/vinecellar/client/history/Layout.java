package org.vinecellar.client.history;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * How paths below a directory tell what a file is of, as in {@code {stream}/{at}/{part}.xml}. A
 * placeholder stands for one or more characters without a slash; given twice, what both say belongs
 * together. {@code *} stands for anything without a slash, {@code **} for anything.
 */
public final class Layout {
  /** What placeholders may name; also {@code label.KEY}. */
  public static final List<String> FIELDS =
      List.of("stream", "run", "part", "at", "commit", "branch");

  private static final int MAX_PLACEHOLDERS = 30;

  private final List<String> groups = new ArrayList<>();
  private final Pattern pattern;

  /**
   * Reads a layout.
   *
   * @throws CellarException {@code INVALID_VALUE} that says where it is wrong
   */
  public Layout(String text) {
    StringBuilder regex = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '{') {
        int end = text.indexOf('}', i);
        if (end < 0) {
          throw wrong(text, "the brace at character " + (i + 1) + " is never closed");
        }
        placeholder(text, text.substring(i + 1, end));
        regex.append("([^/]+?)");
        i = end;
      } else if (c == '*' && text.startsWith("**", i)) {
        regex.append(".*");
        i++;
      } else if (c == '*') {
        regex.append("[^/]*");
      } else {
        regex.append(Pattern.quote(String.valueOf(c)));
      }
    }
    try {
      pattern = Pattern.compile(regex.toString());
    } catch (PatternSyntaxException e) {
      throw wrong(text, e.getDescription());
    }
  }

  private void placeholder(String text, String name) {
    if (!FIELDS.contains(name) && !name.matches("label\\.[\\p{L}\\p{N}._-]{1,60}")) {
      throw wrong(
          text,
          "there is no placeholder {"
              + name
              + "}; there are {"
              + String.join("}, {", FIELDS)
              + "} and {label.KEY}");
    }
    groups.add(name);
    if (groups.size() > MAX_PLACEHOLDERS) {
      throw wrong(text, "it has more than " + MAX_PLACEHOLDERS + " placeholders");
    }
  }

  private static CellarException wrong(String text, String why) {
    return new CellarException(
        ProblemCode.INVALID_VALUE, "the layout “" + text + "” cannot be used: " + why);
  }

  /** Whether a placeholder of that name is there. */
  public boolean tells(String field) {
    return groups.contains(field);
  }

  /**
   * What a path says; empty when it does not match.
   *
   * @param path below the directory, its names parted by slashes
   */
  public Optional<Map<String, String>> read(String path) {
    Matcher matcher = pattern.matcher(path);
    if (!matcher.matches()) {
      return Optional.empty();
    }
    Map<String, String> values = new LinkedHashMap<>();
    for (int i = 0; i < groups.size(); i++) {
      String name = groups.get(i);
      values.merge(
          name, matcher.group(i + 1), (a, b) -> a + (name.equals("stream") ? "/" : "-") + b);
    }
    return Optional.of(values);
  }
}
