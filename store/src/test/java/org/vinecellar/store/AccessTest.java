package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.AccessStore.Pipeline;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Projects, tokens, accounts and sessions on a real PostgreSQL, with the time given. */
class AccessTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final ExecutorService THREADS = Executors.newFixedThreadPool(6);
  private static AccessStore access;

  @BeforeAll
  static void database() {
    access = new Stores(TestDatabase.create(), THREADS, 1 << 20).access();
  }

  @AfterAll
  static void stop() {
    THREADS.shutdown();
  }

  private static Token token(Project project, String hash) {
    return access.createToken(project.id(), "nightly", hash, "wxyz", "ada", NOW);
  }

  @Test
  void aKeyIsTakenOnce() {
    Project fares = access.createProject("fares", "Fares", NOW);

    assertThat(access.project("fares")).contains(fares);
    assertThat(access.project("Fares")).isEmpty();
    assertThatThrownBy(() -> access.createProject("fares", "Other", NOW))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.ALREADY_EXISTS))
        .hasMessage("a project with the key “fares” exists already");
    assertThat(access.projects()).contains(fares);
  }

  @Test
  void aTokenOpensItsProjectUntilItIsRevoked() {
    Project project = access.createProject("tokens", "Tokens", NOW);
    Project other = access.createProject("tokens-other", "Other", NOW);
    Token token = token(project, "hash-1");
    token(other, "hash-2");

    assertThat(access.pipelineOfToken("hash-1", NOW)).contains(new Pipeline(project, "nightly"));
    assertThat(access.pipelineOfToken("hash-2", NOW)).contains(new Pipeline(other, "nightly"));
    assertThat(access.pipelineOfToken("hash-3", NOW)).isEmpty();
    assertThat(access.tokens(project.id()).get(0).lastUsedAt()).isEqualTo(NOW);

    assertThat(access.revokeToken(other.id(), token.id(), NOW)).as("from elsewhere").isFalse();
    assertThat(access.revokeToken(project.id(), token.id(), NOW)).isTrue();
    assertThat(access.revokeToken(project.id(), token.id(), NOW)).as("once").isFalse();
    assertThat(access.pipelineOfToken("hash-1", NOW)).isEmpty();
    assertThat(access.tokens(project.id()).get(0).revokedAt()).isEqualTo(NOW);
  }

  @Test
  void validTokensComeFirst() {
    Project project = access.createProject("order", "Order", NOW);
    Token first = token(project, "order-1");
    Token second = token(project, "order-2");
    Token third = token(project, "order-3");
    access.revokeToken(project.id(), third.id(), NOW);

    assertThat(access.tokens(project.id()))
        .extracting(Token::id)
        .containsExactly(second.id(), first.id(), third.id());
  }

  @Test
  void oneOfManyAtOnceMakesAnAccount() throws Exception {
    List<Callable<Boolean>> tries = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      String hash = "hash" + i;
      tries.add(() -> access.createAccount("ada", hash, NOW));
    }
    int made = 0;
    for (Future<Boolean> tried : THREADS.invokeAll(tries)) {
      made += tried.get() ? 1 : 0;
    }

    assertThat(made).isEqualTo(1);
    assertThat(access.hasAccounts()).isTrue();
    assertThat(access.account("ada")).isPresent();
    assertThat(access.account("bo")).isEmpty();
  }

  @Test
  void aSessionLastsUntilItsEnd() {
    access.createAccount("cy", "hash", NOW);
    long account = access.account("cy").orElseThrow().id();
    Session session = new Session(account, "cy", "csrf", NOW.plusSeconds(60));
    access.createSession("session-1", session, NOW);
    access.createSession("session-2", session, NOW);

    assertThat(access.session("session-1", NOW.plusSeconds(59))).contains(session);
    assertThat(access.session("session-1", NOW.plusSeconds(61))).isEmpty();
    access.deleteSession("session-1");
    assertThat(access.session("session-1", NOW)).isEmpty();
    access.dropExpired(NOW.plusSeconds(61));
    assertThat(access.session("session-2", NOW)).as("dropped").isEmpty();
  }

  @Test
  void failuresAreCountedInARowAlsoAtOnce() throws Exception {
    List<Callable<Integer>> tries = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      tries.add(() -> access.countFailure("login:dee", NOW));
    }
    List<Integer> counted = new ArrayList<>();
    for (Future<Integer> tried : THREADS.invokeAll(tries)) {
      counted.add(tried.get());
    }
    assertThat(counted).containsExactlyInAnyOrder(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12);

    assertThat(access.blockedUntil("login:dee")).isBeforeOrEqualTo(NOW);
    access.block("login:dee", NOW.plusSeconds(30));
    assertThat(access.blockedUntil("login:dee")).isEqualTo(NOW.plusSeconds(30));
    assertThat(access.blockedUntil("login:eve")).isEqualTo(Instant.EPOCH);
    access.forgetFailures("login:dee");
    assertThat(access.blockedUntil("login:dee")).isEqualTo(Instant.EPOCH);
    assertThat(access.countFailure("login:dee", NOW)).isEqualTo(1);
  }
}
