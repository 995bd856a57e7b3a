package org.vinecellar.store;

import io.agroal.api.AgroalDataSource;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** A database of its own for the tests of a class, with all stores on it. */
final class TestStore implements BeforeAllCallback, AfterAllCallback {
  private final ExecutorService background = Executors.newCachedThreadPool();
  private @Nullable AgroalDataSource database;
  private @Nullable Stores stores;

  @Override
  public void beforeAll(ExtensionContext context) {
    database = TestDatabase.create();
    stores = TestDatabase.stores(database, background);
  }

  @Override
  public void afterAll(ExtensionContext context) throws InterruptedException {
    background.shutdown();
    boolean ended = background.awaitTermination(10, TimeUnit.SECONDS);
    Objects.requireNonNull(database).close();
    if (!ended) {
      throw new IllegalStateException("a task of an upload goes on after its end");
    }
  }

  DataSource database() {
    return Objects.requireNonNull(database);
  }

  Stores stores() {
    return Objects.requireNonNull(stores);
  }

  /** For what is done at once. */
  ExecutorService threads() {
    return background;
  }

  /** How many rows there are, as of {@code note where project_id = 1}. */
  long count(String from) {
    return number("select count(*) from " + from);
  }

  long number(String query) {
    return Long.parseLong(texts(query).get(0));
  }

  /** Numbers of the tests that a stream of that name has results of. */
  List<Long> testsOf(String stream) {
    return texts(
            "select distinct test_id from result r join run u on u.id = r.run_id join stream s"
                + " on s.id = u.stream_id where r.kind = 0 and s.name = '"
                + stream
                + "' order by 1")
        .stream()
        .map(Long::valueOf)
        .toList();
  }

  /** Changes rows past all that keeps them in order. */
  void execute(String statement) {
    try (Connection connection = database().getConnection();
        Statement changing = connection.createStatement()) {
      int unused = changing.executeUpdate(statement);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The first column of all rows. */
  List<String> texts(String query) {
    try (Connection connection = database().getConnection();
        Statement statement = connection.createStatement();
        ResultSet rows = statement.executeQuery(query)) {
      List<String> texts = new ArrayList<>();
      while (rows.next()) {
        texts.add(rows.getString(1));
      }
      return texts;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
