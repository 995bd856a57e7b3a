package org.vinecellar.core.reports;

import java.time.Instant;
import java.util.List;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * What happened over a time.
 *
 * @param filter of runs; blank for all
 * @param madeAt when it was asked for
 * @param tables in the order in which they are read; never none
 */
public record Report(
    ReportKind kind, Period period, String filter, Instant madeAt, List<Table> tables) {
  /** Copies the tables. */
  public Report {
    tables = List.copyOf(tables);
  }

  /**
   * One of its tables.
   *
   * @param word by which it is asked for alone
   * @param title for people
   * @param note what has to be known to read it; blank for nothing
   */
  public record Table(String word, String title, String note, Sheet sheet) {}

  /** The same with so many rows of each table at most. */
  public Report cut(int rows) {
    return new Report(
        kind,
        period,
        filter,
        madeAt,
        tables.stream()
            .map(one -> new Table(one.word(), one.title(), one.note(), one.sheet().cut(rows)))
            .toList());
  }

  /**
   * One of them.
   *
   * @param word blank for the first
   * @throws CellarException when there is none
   */
  public Table table(String word) {
    return word.isBlank()
        ? tables.get(0)
        : tables.stream()
            .filter(table -> table.word().equals(word))
            .findFirst()
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "the report “"
                            + kind.word()
                            + "” has no table “"
                            + word
                            + "”; it has "
                            + String.join(", ", tables.stream().map(Table::word).toList())));
  }
}
