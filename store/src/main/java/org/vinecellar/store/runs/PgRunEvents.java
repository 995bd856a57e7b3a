package org.vinecellar.store.runs;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.function.BooleanSupplier;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.vinecellar.core.runs.RunEvents;
import org.vinecellar.store.sql.Sql;

/** Changes of runs, as PostgreSQL tells them to every instance that listens. */
public final class PgRunEvents implements RunEvents {
  private static final int WAIT_MS = 2_000;

  private final Sql sql;

  /** On that database. */
  public PgRunEvents(Sql sql) {
    this.sql = sql;
  }

  @Override
  public void listen(BooleanSupplier wanted, Listener listener) {
    try (Connection connection = sql.connection();
        Statement statement = connection.createStatement()) {
      statement.execute("listen vine_run");
      statement.execute("listen vine_group");
      PGConnection notified = connection.unwrap(PGConnection.class);
      while (wanted.getAsBoolean()) {
        PGNotification[] news = notified.getNotifications(WAIT_MS);
        for (PGNotification one : news == null ? new PGNotification[0] : news) {
          tell(one, listener);
        }
      }
      statement.execute("unlisten *");
    } catch (SQLException e) {
      throw Sql.translated(e);
    }
  }

  private static void tell(PGNotification one, Listener listener) {
    String parameter = one.getParameter();
    if (!parameter.matches("[0-9]{1,9}/[0-9]{1,18}")) {
      return;
    }
    int slash = parameter.indexOf('/');
    int project = Integer.parseInt(parameter.substring(0, slash));
    long id = Long.parseLong(parameter.substring(slash + 1));
    if (one.getName().equals("vine_group")) {
      listener.decided(project, id);
    } else {
      listener.changed(project, id);
    }
  }
}
