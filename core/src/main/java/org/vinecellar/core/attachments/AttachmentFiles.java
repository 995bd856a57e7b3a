package org.vinecellar.core.attachments;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.TestResult;

/**
 * The files that came beside result files. A result claims those that its file names by path, and
 * those that are named after its test.
 *
 * @param <F> whatever a file is to the caller
 */
public final class AttachmentFiles<F> {
  private static final int MAX_BY_NAME = 50;

  private final Map<String, F> byPath = new LinkedHashMap<>();
  private final Map<String, List<String>> byEnd = new HashMap<>();
  private final Map<String, List<String>> byName = new HashMap<>();
  private final Map<String, F> unclaimed = new LinkedHashMap<>();

  /** Adds a file under the path that its sender gave. */
  public void add(String path, F file) {
    String plain = plain(path);
    byPath.put(plain, file);
    unclaimed.put(plain, file);
    byEnd.computeIfAbsent(last(plain), end -> new ArrayList<>()).add(plain);
    String stem = plain.replaceFirst("\\.[A-Za-z0-9]{1,5}$", "");
    for (int at = stem.length(); at > 0; at = stem.lastIndexOf('/', at - 1)) {
      String from = stem.substring(at == stem.length() ? stem.lastIndexOf('/') + 1 : at + 1);
      List<String> named = byName.computeIfAbsent(letters(from), key -> new ArrayList<>());
      if (named.size() < MAX_BY_NAME && !named.contains(plain)) {
        named.add(plain);
      }
      // A folder that is named after the test, with files of any name in it.
      String folder = at == stem.length() ? "" : last(stem.substring(0, at));
      if (!folder.isEmpty()) {
        List<String> inFolder = byName.computeIfAbsent(letters(folder), key -> new ArrayList<>());
        if (inFolder.size() < MAX_BY_NAME && !inFolder.contains(plain)) {
          inFolder.add(plain);
        }
      }
    }
  }

  /** Whether there are none. */
  public boolean isEmpty() {
    return byPath.isEmpty();
  }

  /**
   * The file that a result file means by a path: of the same path, else the one whose path agrees
   * with it from the end for the most folders. Null when there is none, or several are as near.
   */
  public @Nullable F at(String path) {
    String wanted = plain(path);
    String found = byPath.containsKey(wanted) ? wanted : nearest(wanted);
    if (found == null) {
      return null;
    }
    unclaimed.remove(found);
    return byPath.get(found);
  }

  private @Nullable String nearest(String wanted) {
    String best = null;
    int bestCommon = 0;
    boolean several = false;
    for (String candidate : byEnd.getOrDefault(last(wanted), List.of())) {
      int common = commonFolders(candidate, wanted);
      several = common == bestCommon;
      if (common > bestCommon) {
        best = candidate;
        bestCommon = common;
        several = false;
      }
    }
    return several ? null : best;
  }

  private static int commonFolders(String a, String b) {
    String[] first = a.split("/");
    String[] second = b.split("/");
    int common = 0;
    while (common < first.length
        && common < second.length
        && first[first.length - 1 - common].equals(second[second.length - 1 - common])) {
      common++;
    }
    return common;
  }

  /** The result with those files attached to its last try that are named after its test. */
  public TestResult claim(TestResult result) {
    if (byName.isEmpty()) {
      return result;
    }
    List<String> paths = new ArrayList<>();
    String name = letters(result.test().displayName());
    String suite = letters(result.test().suite().name());
    String simple = letters(last(result.test().suite().name().replace('.', '/')));
    for (String key : List.of(suite + name, simple + name, name)) {
      for (String path : byName.getOrDefault(key, List.of())) {
        if (!name.isEmpty() && unclaimed.containsKey(path)) {
          paths.add(path);
          unclaimed.remove(path);
        }
      }
    }
    if (paths.isEmpty()) {
      return result;
    }
    List<Attempt> attempts = new ArrayList<>(result.attempts());
    Attempt last = attempts.remove(attempts.size() - 1);
    List<Attachment> all = new ArrayList<>(last.attachments());
    paths.forEach(path -> all.add(Attachment.at(path, null, null)));
    attempts.add(last.with(all));
    return result.with(attempts);
  }

  /** Files that nobody claimed, by path. */
  public Map<String, F> unclaimed() {
    return Map.copyOf(unclaimed);
  }

  /** With forward slashes, without a drive, and without {@code .} and {@code ..}. */
  private static String plain(String path) {
    List<String> kept = new ArrayList<>();
    for (String word : path.replace('\\', '/').replaceFirst("^[A-Za-z]:", "").split("/")) {
      if (word.equals("..") && !kept.isEmpty()) {
        kept.remove(kept.size() - 1);
      } else if (!word.isEmpty() && !word.equals(".") && !word.equals("..")) {
        kept.add(word);
      }
    }
    return String.join("/", kept);
  }

  private static String last(String path) {
    return path.substring(path.lastIndexOf('/') + 1);
  }

  /** Letters and digits only, since names of files spell all else differently. */
  private static String letters(String text) {
    return text.replaceAll("[^\\p{L}\\p{N}]", "").toLowerCase(Locale.ROOT);
  }
}
