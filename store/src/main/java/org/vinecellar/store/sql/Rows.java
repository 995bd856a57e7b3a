package org.vinecellar.store.sql;

import java.sql.ResultSet;
import java.sql.SQLException;
import org.jooq.Cursor;
import org.jooq.Record;
import org.jooq.ResultQuery;
import org.jooq.exception.DataAccessException;

/** Very many rows, one at a time, as the driver has them: a record of each would cost as much. */
public final class Rows {
  private static final int FETCHED = 10_000;

  private Rows() {}

  /** What is done with a row. */
  public interface Reader {
    void read(ResultSet row) throws SQLException;
  }

  /** In a transaction, without which they would all be held in memory. */
  public static void each(ResultQuery<? extends Record> query, Reader reader) {
    try (Cursor<? extends Record> cursor = query.fetchSize(FETCHED).fetchLazy()) {
      ResultSet rows = cursor.resultSet();
      while (rows.next()) {
        reader.read(rows);
      }
    } catch (SQLException e) {
      throw new DataAccessException("rows that could not be read", e);
    }
  }
}
