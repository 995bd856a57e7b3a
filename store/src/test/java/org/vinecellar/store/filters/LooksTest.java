package org.vinecellar.store.filters;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;
import org.postgresql.ds.PGSimpleDataSource;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

class LooksTest {
  private static final Criterion SOME = new Criterion.Any(List.of(Criterion.EVERYTHING));

  private static DataSource database() {
    PGSimpleDataSource database = new PGSimpleDataSource();
    database.setURL(System.getenv("VINE_TEST_DB_URL"));
    database.setUser(System.getenv("VINE_TEST_DB_USER"));
    database.setPassword(System.getenv("VINE_TEST_DB_PASSWORD"));
    return database;
  }

  private static Integer one(DSLContext dsl) {
    return dsl.fetchSingle("select 1").get(0, Integer.class);
  }

  @Test
  void aLookThatTakesTooLongIsGivenUpAndSaysSo() {
    Looks looks = new Looks(new Sql(database()), Duration.ofMillis(200));
    assertThatThrownBy(() -> looks.wide(SOME, dsl -> dsl.fetch("select pg_sleep(60)")))
        .isInstanceOfSatisfying(
            CellarException.class,
            e -> assertThat(e.code()).isEqualTo(ProblemCode.TOO_MUCH_TO_SEARCH))
        .hasMessageContaining("ask for less");
    // Sums have an end, whatever they are of.
    assertThatThrownBy(() -> looks.sums(dsl -> dsl.fetch("select pg_sleep(60)")))
        .hasMessageContaining("ask for less");
    assertThat(looks.wide(SOME, LooksTest::one)).isEqualTo(1);
    assertThat(looks.sums(LooksTest::one)).isEqualTo(1);
  }

  @Test
  void slowLooksLeaveTheOthersTheirPlaces() throws Exception {
    Looks looks = new Looks(new Sql(database()), Duration.ofMinutes(1));
    CountDownLatch done = new CountDownLatch(1);
    AtomicInteger begun = new AtomicInteger();
    ExecutorService threads = Executors.newCachedThreadPool();
    List<Future<?>> slow = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      slow.add(
          threads.submit(
              () ->
                  looks.wide(
                      SOME,
                      dsl -> {
                        begun.incrementAndGet();
                        try {
                          done.await();
                        } catch (InterruptedException e) {
                          Thread.currentThread().interrupt();
                        }
                        return one(dsl);
                      })));
    }
    int refused = 0;
    while (slow.stream().filter(Future::isDone).count() < 16) {
      Thread.sleep(20);
    }
    assertThat(begun).hasValue(4);
    assertThat(looks.values(LooksTest::one)).isEqualTo(1);
    assertThatThrownBy(() -> looks.wide(SOME, LooksTest::one))
        .isInstanceOfSatisfying(
            CellarException.class,
            e -> assertThat(e.code()).isEqualTo(ProblemCode.TOO_MANY_AT_ONCE));
    assertThat(looks.wide(Criterion.EVERYTHING, LooksTest::one)).isEqualTo(1);
    assertThat(looks.intoRun(SOME, LooksTest::one)).isEqualTo(1);
    done.countDown();
    for (Future<?> one : slow) {
      try {
        assertThat(one.get()).isEqualTo(1);
      } catch (java.util.concurrent.ExecutionException e) {
        refused++;
      }
    }
    assertThat(refused).isEqualTo(16);
    assertThat(looks.wide(SOME, LooksTest::one)).isEqualTo(1);
    threads.shutdown();
  }
}
