package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.vinecellar.client.command.VineCommand;

/**
 * Sends files with {@code vine push} and looks in the database when what they tell can be seen:
 * {@code vine} itself ends later, once it can say what the failures are.
 */
final class Watched {
  private static final long LONGEST_NANOS = 300_000_000_000L;

  /** Counting is put off the longer, the longer it takes; nobody waits for that. */
  private static final String DUE = "select count(*) from work where due_at <= now()";

  private final Target target;
  private final Connection connection;

  Watched(Target target, Connection connection) {
    this.target = target;
    this.connection = connection;
  }

  /**
   * How many seconds it took.
   *
   * @param there until all of it could be asked for
   * @param explained until its failures were grouped, and explained as far as they were before
   * @param ended until {@code vine} had told what came of it
   */
  record Took(double there, double explained, double ended) {
    double share() {
      return (explained - there) / explained;
    }
  }

  Took push(String stream, Path file) throws IOException, SQLException, InterruptedException {
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {"push", file.toString(), "--stream", stream};
    long last = number("select coalesce(max(id), 0) from run");
    int[] code = {-1};
    Thread pushing =
        new Thread(
            () -> code[0] = VineCommand.run(words, nowhere, System.err, target.environment()));
    long begun = System.nanoTime();
    pushing.start();
    double there =
        until(
            "select count(*) from run r where r.number is not null and not r.is_open and r.id > "
                + last,
            begun);
    double explained =
        until("select count(*) from run r where r.explained and r.id > " + last, begun);
    pushing.join();
    if (code[0] != 0) {
      throw new IOException("the push ended with " + code[0]);
    }
    return new Took(there, explained, (System.nanoTime() - begun) / 1e9);
  }

  /** Waits until all is done that should be by now. */
  void settled() throws SQLException, InterruptedException {
    none(DUE);
  }

  /** Waits until none is counted. */
  void none(String counted) throws SQLException, InterruptedException {
    long begun = System.nanoTime();
    while (number(counted) != 0) {
      pause(counted, begun, 20);
    }
  }

  private double until(String counted, long begun) throws SQLException, InterruptedException {
    while (number(counted) == 0) {
      pause(counted, begun, 4);
    }
    return (System.nanoTime() - begun) / 1e9;
  }

  private static void pause(String counted, long begun, int millis) throws InterruptedException {
    if (System.nanoTime() - begun > LONGEST_NANOS) {
      throw new IllegalStateException("waited in vain: " + counted);
    }
    Thread.sleep(millis);
  }

  long number(String sql) throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet row = statement.executeQuery(sql)) {
      row.next();
      return row.getLong(1);
    }
  }
}
