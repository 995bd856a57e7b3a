package org.vinecellar.core.results;

import java.util.Collections;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What tells equal tests apart in one run, such as {@code browser=webkit}. A test in two variants
 * is two tests under one name, each with results and a past of its own.
 *
 * @param words by their keys, in the order of these; empty for no variant
 */
public record Variant(SortedMap<String, String> words) {
  /** Tests that nothing tells apart. */
  public static final Variant NONE = new Variant(Collections.emptySortedMap());

  private static final int MOST = 10;
  private static final int LONGEST = 200;

  /** Copies the words. */
  public Variant {
    words = Collections.unmodifiableSortedMap(new TreeMap<>(words));
  }

  /**
   * As a sender gave it.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the word and the rule
   */
  public static Variant of(Map<String, String> words) {
    if (words.size() > MOST) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a variant of " + words.size() + " words is too much; at most " + MOST + " are taken");
    }
    words.forEach((key, value) -> Labels.check("the variant", key, value));
    return words.isEmpty() ? NONE : new Variant(new TreeMap<>(words));
  }

  /**
   * One word as a file tells it.
   *
   * @param key a word of ours
   * @param value none when it is null or blank; what is too long is cut
   */
  public static Variant told(String key, @Nullable String value) {
    String one = value == null ? "" : value.replaceAll("\\p{Cntrl}+", " ").strip();
    if (one.isEmpty()) {
      return NONE;
    }
    String kept =
        one.length() <= LONGEST
            ? one
            : one.substring(0, LONGEST - 9) + "…" + Integer.toHexString(one.hashCode());
    return new Variant(new TreeMap<>(Map.of(key, kept)));
  }

  /** Whether nothing is told. Asked of every test, nearly always of the same object. */
  @SuppressWarnings("ReferenceEquality")
  public boolean isNone() {
    return this == NONE || words.isEmpty();
  }

  /** This with more words; where both tell one, that of the other counts. */
  public Variant with(Variant other) {
    if (isNone() || other.isNone()) {
      return isNone() ? other : this;
    }
    TreeMap<String, String> all = new TreeMap<>(words);
    all.putAll(other.words);
    return new Variant(all);
  }

  /** Equal for equal words; zero for none. */
  public Key128 key() {
    return isNone() ? Key128.ZERO : KeyMaker.get().of(Key128.ZERO, words);
  }

  /** As people read it: {@code browser=webkit, jdk=21}; empty for none. */
  public String text() {
    return words.entrySet().stream()
        .map(word -> word.getKey() + "=" + word.getValue())
        .collect(Collectors.joining(", "));
  }
}
