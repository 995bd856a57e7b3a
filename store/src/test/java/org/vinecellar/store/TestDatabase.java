package org.vinecellar.store;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.postgresql.ds.PGSimpleDataSource;

/** A fresh database on the PostgreSQL that {@code ./cellar test} has started. */
final class TestDatabase {
  private static final AtomicInteger NUMBER = new AtomicInteger();

  private TestDatabase() {}

  /** All stores on one database without a pool. */
  static Stores stores(DataSource dataSource, Executor threads) {
    return new Stores(dataSource, dataSource, dataSource, threads, 1 << 20);
  }

  static DataSource create() {
    String url = System.getenv("VINE_TEST_DB_URL");
    if (url == null) {
      throw new IllegalStateException("run the tests by ./cellar test: they need its PostgreSQL");
    }
    String name = "store_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    try (Connection connection =
            DriverManager.getConnection(
                url, System.getenv("VINE_TEST_DB_USER"), System.getenv("VINE_TEST_DB_PASSWORD"));
        var statement = connection.createStatement()) {
      statement.execute("create database " + name);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
    PGSimpleDataSource dataSource = new PGSimpleDataSource();
    dataSource.setUrl(url.substring(0, url.lastIndexOf('/') + 1) + name);
    dataSource.setUser(System.getenv("VINE_TEST_DB_USER"));
    dataSource.setPassword(System.getenv("VINE_TEST_DB_PASSWORD"));
    Flyway.configure().dataSource(dataSource).load().migrate();
    return dataSource;
  }
}
