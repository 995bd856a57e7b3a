package org.vinecellar.core.operate;

import java.util.List;

/** What the database says of itself, asked so that nobody else's work is in the way. */
public interface DatabaseWatch {
  /**
   * A table with what hangs on it.
   *
   * @param bytes with its indexes
   * @param rows as the database estimates them
   */
  record TableSize(String name, long bytes, long rows) {}

  /**
   * The database in figures.
   *
   * @param version of PostgreSQL
   * @param schema the last migration
   * @param bytes all of it
   * @param connections open ones, of everybody
   * @param superuser whether the service may do everything there, which it should not
   * @param largest the largest tables
   */
  record Facts(
      String version,
      String schema,
      long bytes,
      int connections,
      int maxConnections,
      boolean superuser,
      List<TableSize> largest) {
    /** Copies the list. */
    public Facts {
      largest = List.copyOf(largest);
    }
  }

  /**
   * Asks whether it answers, for a few seconds at most.
   *
   * @throws org.vinecellar.core.problem.CellarException when it does not
   */
  void ask();

  /**
   * Its figures.
   *
   * @throws org.vinecellar.core.problem.CellarException when it does not answer
   */
  Facts facts();
}
