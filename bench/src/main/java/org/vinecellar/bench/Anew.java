package org.vinecellar.bench;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** Has streams learned of from nothing. */
final class Anew {
  private Anew() {}

  /**
   * Ends when that is done, and what follows from it.
   *
   * @param streams a regular expression of their names
   * @return how many seconds it took
   */
  static double learnt(Target target, String streams) throws SQLException, InterruptedException {
    long begun = System.nanoTime();
    try (Connection connection = target.connection();
        Statement statement = connection.createStatement()) {
      try (PreparedStatement asked =
          connection.prepareStatement(
              "insert into work (kind, project_id, subject_id, asked_at, due_at, tries)"
                  + " select 'LEARN_STREAM', project_id, id, now(), now(), 0 from stream"
                  + " where name ~ ?")) {
        asked.setString(1, streams);
        asked.executeUpdate();
      }
      boolean busy = true;
      while (busy) {
        Thread.sleep(200);
        try (ResultSet left =
            statement.executeQuery(
                "select count(*) from work where due_at <= now() + interval '10 seconds'")) {
          left.next();
          busy = left.getLong(1) > 0;
        }
      }
    }
    return (System.nanoTime() - begun) / 1e9;
  }
}
