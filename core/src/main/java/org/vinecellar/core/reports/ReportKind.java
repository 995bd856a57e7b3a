package org.vinecellar.core.reports;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Of what a report tells. */
public enum ReportKind {
  /** How much ran, what came of it, what it took, and what was said of its failures. */
  SUMMARY("What ran", List.of("all", "streams", "days", "causes", "explained", "tickets")),
  /** Every test: how often it ran, what came of it, and what it threw. */
  TESTS("Test by test", List.of("tests", "types", "thrown")),
  /** The same figures side by side, by what runs have. */
  BREAKDOWN("Side by side", List.of("parts", "matrix")),
  /** What people did. */
  PEOPLE("Who did what", List.of("people"));

  private final String title;
  private final List<String> tables;

  ReportKind(String title, List<String> tables) {
    this.title = title;
    this.tables = tables;
  }

  /** For people. */
  public String title() {
    return title;
  }

  /** The words of the tables that it can have, in their order. */
  public List<String> tables() {
    return tables;
  }

  /** As it is written. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /**
   * The one that is written so.
   *
   * @throws CellarException when none is
   */
  public static ReportKind of(String word) {
    return Arrays.stream(values())
        .filter(kind -> kind.word().equals(word))
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "there is no report “"
                        + word
                        + "”; there are "
                        + Arrays.stream(values())
                            .map(ReportKind::word)
                            .collect(Collectors.joining(", "))));
  }
}
