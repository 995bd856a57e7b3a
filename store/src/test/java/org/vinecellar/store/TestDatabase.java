package org.vinecellar.store;

import io.agroal.api.AgroalDataSource;
import io.agroal.api.configuration.supplier.AgroalConnectionPoolConfigurationSupplier;
import io.agroal.api.configuration.supplier.AgroalDataSourceConfigurationSupplier;
import io.agroal.api.security.NamePrincipal;
import io.agroal.api.security.SimplePassword;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;

/** A fresh database on the PostgreSQL that {@code ./cellar test} has started. */
final class TestDatabase {
  private static final AtomicInteger NUMBER = new AtomicInteger();

  /** No test asks for so many pieces of work. */
  private static final int ENDLESS = 20_000;

  private TestDatabase() {}

  /** All stores on one database. */
  static Stores stores(DataSource dataSource, Executor threads) {
    return new Stores(dataSource, dataSource, dataSource, threads, 1 << 20, Duration.ofMinutes(1));
  }

  /** Does all work that waits. */
  static void work(Stores stores) {
    Instant later = Instant.parse("2100-01-01T00:00:00Z");
    int done = 0;
    // What puts itself off for a while is done as well.
    while (stores.work().doOne(later)) {
      later = later.plusSeconds(60);
      if (++done > ENDLESS) {
        throw new AssertionError("work that fails again and again: its warnings tell why");
      }
    }
  }

  static AgroalDataSource create() {
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
    AgroalConnectionPoolConfigurationSupplier pool =
        new AgroalConnectionPoolConfigurationSupplier()
            .maxSize(40)
            .acquisitionTimeout(Duration.ofSeconds(30))
            .connectionFactoryConfiguration(
                factory ->
                    factory
                        .jdbcUrl(url.substring(0, url.lastIndexOf('/') + 1) + name)
                        .principal(new NamePrincipal(System.getenv("VINE_TEST_DB_USER")))
                        .credential(new SimplePassword(System.getenv("VINE_TEST_DB_PASSWORD"))));
    try {
      AgroalDataSource dataSource =
          AgroalDataSource.from(
              new AgroalDataSourceConfigurationSupplier().connectionPoolConfiguration(pool));
      Flyway.configure().dataSource(dataSource).load().migrate();
      return dataSource;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
