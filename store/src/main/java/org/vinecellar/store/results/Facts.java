package org.vinecellar.store.results;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestResult;

/**
 * What a file tells of a test beside what it did.
 *
 * @param line from 1; 0 when not told
 */
record Facts(@Nullable String file, int line, List<String> tags) {
  /** Nothing told. */
  static final Facts NONE = new Facts(null, 0, List.of());

  /** So many tags of a test can be found by, and so many characters of each. */
  static final int FOUND_BY_TAGS = 100;

  static final int FOUND_BY_LENGTH = 200;

  private static final long BASIS = 0xcbf29ce484222325L;
  private static final long PRIME = 0x100000001b3L;

  static Facts of(TestResult result) {
    return result.file() == null && result.line() == 0 && result.tags().isEmpty()
        ? NONE
        : new Facts(result.file(), result.line(), result.tags());
  }

  boolean isNothing() {
    return this == NONE;
  }

  /** Each once, as far as tests are found by them. */
  Set<String> tagsToFind() {
    return tags.stream()
        .limit(FOUND_BY_TAGS)
        .map(Facts::cut)
        .collect(Collectors.toCollection(LinkedHashSet::new));
  }

  /** As PostgreSQL's left() does. */
  private static String cut(String tag) {
    return tag.codePointCount(0, tag.length()) <= FOUND_BY_LENGTH
        ? tag
        : tag.substring(0, tag.offsetByCodePoints(0, FOUND_BY_LENGTH));
  }

  /** Tells versions of one test apart; 0 for nothing. FNV-1a, 64 bits, over the characters. */
  long hash() {
    if (isNothing()) {
      return 0;
    }
    long hash = mixed(BASIS, file == null ? "\0" : file);
    hash = (hash ^ line) * PRIME;
    for (String tag : tags) {
      hash = mixed(hash, tag);
    }
    return hash == 0 ? 1 : hash;
  }

  private static long mixed(long before, String text) {
    long hash = before;
    for (int i = 0; i < text.length(); i++) {
      hash = (hash ^ text.charAt(i)) * PRIME;
    }
    return (hash ^ 0xffff) * PRIME;
  }
}
