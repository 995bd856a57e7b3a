package org.vinecellar.core.ingest;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Variant;

/**
 * How the paths of files tell their variants: by patterns in which a key in braces stands for a
 * name, as in {@code build/{jdk}/*.xml}. {@code *} stands for anything without a slash, {@code **}
 * for anything, {@code ?} for a character, {@code {a,b}} for one of them.
 */
public final class PathVariants {
  /** Paths tell nothing. */
  public static final PathVariants NONE = new PathVariants(List.of());

  private static final int MOST = 50;
  private static final int LONGEST = 1000;

  private static final Pattern KEYED = Pattern.compile("\\{[\\p{L}\\p{N}._-]+\\}");

  private final List<One> patterns;

  /** A pattern with the keys that its groups stand for. */
  private record One(String text, Pattern pattern, List<String> keys) {}

  private PathVariants(List<One> patterns) {
    this.patterns = patterns;
  }

  /** Whether there is a key in a pattern. */
  public static boolean tells(String pattern) {
    return KEYED.matcher(pattern).find();
  }

  /** The same pattern for files, whatever the keys stand for. */
  public static String anything(String pattern) {
    return KEYED.matcher(pattern).replaceAll("*");
  }

  /**
   * By those patterns.
   *
   * @throws CellarException {@code INVALID_VALUE} for what is none
   */
  public static PathVariants of(List<String> patterns) {
    if (patterns.isEmpty()) {
      return NONE;
    }
    if (patterns.size() > MOST) {
      throw invalid(patterns.size() + " patterns of variants are too many; at most " + MOST);
    }
    return new PathVariants(patterns.stream().map(PathVariants::one).toList());
  }

  private static One one(String text) {
    if (text.length() > LONGEST || !tells(text)) {
      throw invalid(
          "the pattern “"
              + (text.length() <= 100 ? text : text.substring(0, 100) + "…")
              + "” has no key in braces, as in build/{jdk}/*.xml");
    }
    StringBuilder regex = new StringBuilder();
    List<String> keys = new ArrayList<>();
    String plain = text.replace('\\', '/');
    int from = plain.startsWith("./") ? 2 : 0;
    for (int i = from; i < plain.length(); i++) {
      char c = plain.charAt(i);
      int end = c == '{' ? plain.indexOf('}', i) : -1;
      if (end > 0) {
        String inside = plain.substring(i + 1, end);
        if (inside.indexOf(',') < 0) {
          keys.add(inside);
          regex.append("([^/]+)");
        } else {
          regex.append("(?:");
          for (String word : inside.split(",", -1)) {
            regex.append(regex.charAt(regex.length() - 1) == ':' ? "" : "|");
            regex.append(Pattern.quote(word));
          }
          regex.append(')');
        }
        i = end;
      } else if (plain.startsWith("**/", i)) {
        regex.append("(?:.*/)?");
        i += 2;
      } else if (plain.startsWith("**", i)) {
        regex.append(".*");
        i++;
      } else if (c == '*') {
        regex.append("[^/]*");
      } else if (c == '?') {
        regex.append("[^/]");
      } else {
        regex.append(Pattern.quote(String.valueOf(c)));
      }
    }
    // What a key may be is known of variants.
    Map<String, String> words = new LinkedHashMap<>();
    keys.forEach(key -> words.put(key, "x"));
    Variant unused = Variant.of(words);
    return new One(text, Pattern.compile(regex.toString()), keys);
  }

  /**
   * The variant that a path tells; none where no pattern is like it.
   *
   * @throws CellarException {@code INVALID_VALUE} when a name can be no word of a variant
   */
  public Variant of(String path) {
    String plain = path.replace('\\', '/');
    for (One one : patterns) {
      Matcher matcher = one.pattern.matcher(plain);
      if (matcher.matches()) {
        Map<String, String> words = new LinkedHashMap<>();
        for (int i = 0; i < one.keys.size(); i++) {
          words.put(one.keys.get(i), matcher.group(i + 1));
        }
        return Variant.of(words);
      }
    }
    return Variant.NONE;
  }

  /** Whether paths tell nothing. */
  public boolean isNone() {
    return patterns.isEmpty();
  }

  /**
   * Makes sure that every pattern is like one of the files: a variant that is not told would make
   * tests equal that are not.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the pattern
   */
  public void check(List<String> paths) {
    for (One one : patterns) {
      if (paths.stream()
          .noneMatch(path -> one.pattern.matcher(path.replace('\\', '/')).matches())) {
        throw invalid(
            "no file is like the pattern “"
                + one.text
                + "”, which is to tell variants; files are named by the paths that they are sent"
                + " under");
      }
    }
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
