package org.vinecellar.core.triage.rules;

import java.util.List;

/**
 * The rules that a project starts with, for widespread kinds. All are off until somebody wants
 * them.
 */
public final class Starters {
  /**
   * One of them.
   *
   * @param key by which it is known, and given once
   */
  public record Starter(String key, RuleDraft said) {}

  /** In their order: the more telling ones first. */
  public static final List<Starter> ALL =
      List.of(
          starter(
              "refused",
              "Connection refused",
              "",
              "(?i)connection refused|actively refused|\\bECONNREFUSED\\b",
              "Environment fault",
              "Something that the test talks to was not up."),
          starter(
              "gateway",
              "A gateway answers 502, 503 or 504",
              "",
              "(?i)\\b(502 bad gateway|503 service (temporarily )?unavailable|504 gateway time-?out)"
                  + "|\\b(status|http)\\b.{0,40}\\b50[234]\\b",
              "Environment fault",
              "What stands behind the gateway did not answer."),
          starter(
              "memory",
              "Out of memory",
              "",
              "\\bOutOfMemoryError\\b|\\bMemoryError\\b|\\bstd::bad_alloc\\b|\\bENOMEM\\b|\\bOOMKilled\\b"
                  + "|(?i:\\bout of memory\\b|heap limit)",
              "Environment fault",
              "The process, or the machine, had no memory left."),
          starter(
              "stale",
              "Stale element",
              "",
              "\\bStaleElement\\w*|(?i:stale element reference|not attached to the (dom|page document))",
              "Test fault",
              "The page was drawn anew between finding the element and using it."),
          starter(
              "assertion",
              "An expectation did not hold",
              "outcome eq \"failed\"",
              "",
              "Product fault",
              "Nobody has looked closer; the test might be wrong as well."));

  private Starters() {}

  private static Starter starter(
      String key, String name, String filter, String pattern, String category, String comment) {
    return new Starter(key, new RuleDraft(name, filter, pattern, category, comment, false));
  }
}
