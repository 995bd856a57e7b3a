package org.vinecellar.core.filters;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** What a filter picks, or what hangs on that. Its attributes and relations are the catalogue. */
public enum Thing {
  RUN("one execution of a pipeline job"),
  RESULT("what one test, or a set-up that failed, did in one run"),
  TEST("the lasting identity of a test over all runs"),
  GROUP("failing results that share one cause"),
  DECISION("what somebody, or a rule, said that a cause is"),
  TICKET("an entry of the tracker, as it was told last"),
  VERDICT("what a test that did not always pass is taken for in one stream"),
  ATTEMPT("one try of a test in a run"),
  LABEL("a key and a value on a run");

  private final String meaning;

  Thing(String meaning) {
    this.meaning = meaning;
  }

  /** The one of that name. */
  public static Optional<Thing> ofWord(String word) {
    return Arrays.stream(values()).filter(thing -> thing.word().equals(word)).findFirst();
  }

  /** Whether there are lists of it, and so saved filters. */
  public boolean isListed() {
    return this == RUN || this == RESULT || this == TEST || this == GROUP;
  }

  /** Its name, e.g. {@code run}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** For people. */
  public String meaning() {
    return meaning;
  }

  /** In the order in which they are told. */
  public List<Attribute> attributes() {
    return Arrays.stream(Attribute.values()).filter(one -> one.of() == this).toList();
  }

  /** In the order in which they are told. */
  public List<Relation> relations() {
    return Arrays.stream(Relation.values()).filter(one -> one.of() == this).toList();
  }
}
