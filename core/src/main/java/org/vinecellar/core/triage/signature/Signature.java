package org.vinecellar.core.triage.signature;

import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.vinecellar.core.results.TestId;

/**
 * By what a failure is known again.
 *
 * @param key begins with the word of the kind; equal for equal causes
 * @param offers less telling keys under which the same cause may be asked for
 * @param asks less telling keys by which this one, which does not know enough, may be joined to a
 *     group, if there is but one that offers it; empty when the key is all there is to know
 * @param sentence why results with this key are one group
 * @param words of the error, for likeness; sorted, without repetition
 * @param template the error with a hole for each value
 * @param strong whether the key tells enough for what is decided at one test to hold for others
 */
public record Signature(
    KeyKind kind,
    String key,
    List<String> offers,
    List<String> asks,
    String sentence,
    List<String> words,
    String template,
    boolean strong) {
  /** Begins what may be asked for and offered among the failures of one run only. */
  public static final String IN_RUN = "run:";

  private static final int SHORT = 200;

  /** Goes up when keys are made in another way, so that groups are made anew. */
  public static final int VERSION = 8;

  /**
   * The same cause as several results tell it, in whatever order they come.
   *
   * @param same signatures with one key, one at least
   */
  public static Signature ofAll(Collection<Signature> same) {
    Signature first = Collections.min(same, Comparator.comparing(Signature::template));
    Set<String> offers = new TreeSet<>();
    same.forEach(one -> offers.addAll(one.offers));
    return new Signature(
        first.kind,
        first.key,
        List.copyOf(offers),
        first.asks,
        first.sentence,
        first.words,
        first.template,
        first.strong);
  }

  /** What each result offers: its test, whatever parameters it has. */
  public static String ofTest(TestId test) {
    return "test " + test.suite().name() + "#" + test.name();
  }

  /** Without what it could be compared by: known by its key alone, and taking little room. */
  public Signature keyAlone() {
    return new Signature(
        kind,
        key,
        offers,
        asks,
        sentence,
        List.of(),
        template.length() > SHORT ? template.substring(0, SHORT) : template,
        strong);
  }

  /**
   * All that a run says beyond what is told apart. It is no cause: what is decided of one holds for
   * no other.
   */
  public static Signature further() {
    return new Signature(
        KeyKind.TEST,
        "further",
        List.of(),
        List.of(),
        "Its run says more different things than are told apart; this is one of the rest.",
        List.of(),
        "more different errors than are told apart",
        false);
  }

  /** Checks nulls and copies the lists. */
  public Signature {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(key);
    offers = List.copyOf(offers);
    asks = List.copyOf(asks);
    words = List.copyOf(words);
  }
}
