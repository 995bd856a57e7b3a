package org.vinecellar.store.ledger;

import java.util.List;
import java.util.stream.Collectors;
import org.vinecellar.core.results.Counts;

/**
 * The seven numbers of {@link Counts} as columns and as sums over results. The one place that says
 * what is counted: five outcomes of tests, tests that were tried more than once, set-ups that
 * failed.
 */
final class Tallies {
  /** The columns, in the order of {@link Counts}. */
  static final List<String> COLUMNS =
      List.of("passed", "failed", "errored", "skipped", "not_reached", "retried", "set_ups");

  /** The same in a suite, without the suites inside it. */
  static final List<String> OWN = COLUMNS.stream().map(column -> "own_" + column).toList();

  private Tallies() {}

  /**
   * Seven sums by a key over results {@code r}, which stand in {@code from}: they are grouped first
   * by what they come to, so that the seven questions are asked of few groups and not of every
   * result.
   *
   * @param key of results, an expression
   */
  static String standing(String key, String from) {
    return grouped(key, "r.outcome", "r.attempts > 1", from);
  }

  /** The same as their own part told them, and the sum of their durations. */
  static String told(String from) {
    return grouped("0", "r.told", "r.retried", from);
  }

  private static String grouped(String key, String outcome, String retried, String from) {
    StringBuilder sums = new StringBuilder("select g.id");
    for (int code = 0; code < 5; code++) {
      sums.append(", ").append(sum("g.kind = 0 and g.outcome = " + code, COLUMNS.get(code)));
    }
    sums.append(", ").append(sum("g.kind = 0 and g.again", "retried"));
    sums.append(", ").append(sum("g.kind = 1 and g.outcome in (1, 2)", "set_ups"));
    sums.append(", coalesce(sum(g.micros), 0) as micros from (select ").append(key);
    sums.append(" as id, r.kind, ").append(outcome).append(" as outcome, ").append(retried);
    sums.append(" as again, count(*) as n, sum(r.duration_us) as micros from ").append(from);
    return sums.append(" group by 1, 2, 3, 4) g group by 1").toString();
  }

  private static String sum(String which, String column) {
    return "coalesce(sum(g.n) filter (where " + which + "), 0) as " + column;
  }

  /** Each column in a template, in which {@code $} stands for it. */
  static String each(List<String> columns, String template) {
    return columns.stream()
        .map(column -> template.replace("$", column))
        .collect(Collectors.joining(", "));
  }

  /** The numbers in the order of the columns. */
  static Integer[] numbers(Counts c) {
    return new Integer[] {
      c.passed(), c.failed(), c.errored(), c.skipped(), c.notReached(), c.retried(), c.setUps()
    };
  }
}
