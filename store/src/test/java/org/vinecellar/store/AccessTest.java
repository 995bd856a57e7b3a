package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.AccessStore.Pipeline;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.Member;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Scope;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Projects, tokens, accounts and sessions on a real PostgreSQL, with the time given. */
class AccessTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final ExecutorService THREADS = Executors.newFixedThreadPool(6);
  private static final Set<Scope> BOTH = Set.of(Scope.SEND, Scope.READ);
  private static AccessStore access;
  private static PeopleStore people;

  @BeforeAll
  static void database() {
    Stores stores = TestDatabase.stores(TestDatabase.create(), THREADS);
    access = stores.access();
    people = stores.people();
  }

  @AfterAll
  static void stop() {
    THREADS.shutdown();
  }

  private static Token token(Project project, String hash) {
    return access.createToken(
        project.id(), new Token.New("nightly", hash, "wxyz", BOTH, "ada", null), NOW);
  }

  @Test
  void aKeyIsTakenOnce() {
    Project fares = access.createProject("fares", "Fares", null, NOW);

    assertThat(access.project("fares")).contains(fares);
    assertThat(access.project("Fares")).isEmpty();
    assertThatThrownBy(() -> access.createProject("fares", "Other", null, NOW))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.ALREADY_EXISTS))
        .hasMessage("a project with the key “fares” exists already");
    assertThat(access.projects()).contains(fares);
  }

  @Test
  void aTokenOpensItsProjectUntilItIsRevoked() {
    Project project = access.createProject("tokens", "Tokens", null, NOW);
    Project other = access.createProject("tokens-other", "Other", null, NOW);
    Token token = token(project, "hash-1");
    token(other, "hash-2");

    assertThat(access.pipelineOfToken("hash-1", NOW))
        .contains(new Pipeline(project, "nightly", BOTH));
    assertThat(access.pipelineOfToken("hash-2", NOW))
        .contains(new Pipeline(other, "nightly", BOTH));
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
    Project project = access.createProject("order", "Order", null, NOW);
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
      tries.add(() -> people.createAccount("ada", hash, false, NOW));
    }
    int made = 0;
    for (Future<Boolean> tried : THREADS.invokeAll(tries)) {
      made += tried.get() ? 1 : 0;
    }

    assertThat(made).isEqualTo(1);
    assertThat(people.hasAccounts()).isTrue();
    assertThat(people.account("ada")).isPresent();
    assertThat(people.account("bo")).isEmpty();
  }

  private static long account(String login, boolean administrator) {
    people.createAccount(login, "hash", administrator, NOW);
    return people.account(login).orElseThrow().id();
  }

  private static void session(String hash, long account) {
    Session session = new Session(0, account, "x", false, "csrf", NOW.plusSeconds(60));
    access.createSession(hash, session, "browser", "127.0.0.1", NOW);
  }

  @Test
  void aSessionLastsUntilItsEndOrUntilTheAccountIsDisabled() {
    long cy = account("cy", false);
    session("session-1", cy);
    session("session-2", cy);

    assertThat(access.session("session-1", NOW.plusSeconds(59)).orElseThrow().login())
        .isEqualTo("cy");
    assertThat(access.session("session-1", NOW.plusSeconds(61))).isEmpty();
    assertThat(access.sessions(cy, NOW)).hasSize(2);
    access.deleteSession("session-1");
    assertThat(access.session("session-1", NOW)).isEmpty();
    access.dropExpired(NOW.plusSeconds(61));
    assertThat(access.session("session-2", NOW)).as("dropped").isEmpty();

    account("admin-of-sessions", true);
    access.createTokenOf(cy, new Token.New("mine", "own", "wxyz", BOTH, "cy", null), NOW);
    session("session-3", cy);
    people.setEnabled(cy, false, NOW);
    assertThat(access.session("session-3", NOW)).isEmpty();
    assertThat(access.personOfToken("own", NOW)).isEmpty();
    people.setEnabled(cy, true, NOW);
    assertThat(access.session("session-3", NOW)).as("stays ended").isEmpty();
    assertThat(access.personOfToken("own", NOW).orElseThrow().account().login()).isEqualTo("cy");
  }

  @Test
  void aTokenEndsWhenItsTimeIsOver() {
    Project project = access.createProject("ending", "Ending", null, NOW);
    Token.New brief = new Token.New("b", "ends", "wxyz", BOTH, "ada", NOW.plusSeconds(10));
    access.createToken(project.id(), brief, NOW);

    assertThat(access.pipelineOfToken("ends", NOW.plusSeconds(9))).isPresent();
    assertThat(access.pipelineOfToken("ends", NOW.plusSeconds(10))).isEmpty();
  }

  /** Sixty at once: five go through, whoever is first, and the others wait. */
  @Test
  void triesAreCountedBeforeTheyAreMadeAlsoAtOnce() throws Exception {
    List<Callable<Duration>> tries = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      tries.add(() -> access.admitTry("login:dee@1", 5, Duration.ofMinutes(15), NOW));
    }
    int admitted = 0;
    for (Future<Duration> tried : THREADS.invokeAll(tries)) {
      admitted += tried.get().isZero() ? 1 : 0;
    }
    assertThat(admitted).isEqualTo(5);
    assertThat(access.admitTry("login:dee@2", 5, Duration.ofMinutes(15), NOW))
        .as("from elsewhere")
        .isZero();

    Instant later = NOW;
    Duration before = Duration.ZERO;
    for (int i = 0; i < 14; i++) {
      Duration wait = access.admitTry("login:dee@1", 5, Duration.ofMinutes(15), later);
      assertThat(wait).isGreaterThanOrEqualTo(before).isLessThanOrEqualTo(Duration.ofMinutes(15));
      before = wait;
      later = later.plus(wait);
      assertThat(access.admitTry("login:dee@1", 5, Duration.ofMinutes(15), later)).isZero();
    }
    assertThat(before).isEqualTo(Duration.ofMinutes(15));
    access.forgetTries("login:dee@1");
    assertThat(access.admitTry("login:dee@1", 5, Duration.ofMinutes(15), later)).isZero();
  }

  @Test
  void membersAreWhatTheyWereMadeAndAnOwnerStays() {
    long fay = account("fay", false);
    long gus = account("gus", false);
    Project project = access.createProject("crew", "Crew", fay, NOW);
    Project open = access.createProject("open", "Open", fay, NOW);
    access.changeProject(open.id(), "Open", true);

    assertThat(access.membership(gus, "crew")).isEmpty();
    assertThat(access.membership(gus, "open").orElseThrow().role()).isEqualTo(Role.READER);
    people.setMember(project.id(), gus, Role.CONTRIBUTOR, "fay", NOW);
    assertThat(access.memberships(gus))
        .extracting(m -> m.project().key() + " " + m.role().word())
        .containsExactly("crew contributor", "open reader");
    assertThatThrownBy(() -> people.setMember(project.id(), fay, Role.READER, "fay", NOW))
        .hasMessageContaining("last owner");
    assertThatThrownBy(() -> people.removeMember(project.id(), fay))
        .hasMessageContaining("last owner");
    assertThat(access.membership(fay, "crew").orElseThrow().role()).isEqualTo(Role.OWNER);
    people.setMember(project.id(), gus, Role.OWNER, "fay", NOW);
    assertThat(people.removeMember(project.id(), fay)).isTrue();
    assertThat(people.members(project.id())).extracting(Member::login).containsExactly("gus");
  }

  @Test
  void anInvitationIsGoodOnceAlsoForManyAtOnce() throws Exception {
    Project project = access.createProject("invited", "Invited", null, NOW);
    Invitation invitation =
        new Invitation(
            "hal",
            null,
            false,
            List.of(new Invitation.Place(project.id(), "invited", Role.READER)),
            "admin",
            NOW.plusSeconds(60));
    people.invite("earlier", invitation, NOW);
    people.invite("link", invitation, NOW);
    assertThat(people.invitation("earlier", NOW)).as("a later one takes its place").isEmpty();
    assertThat(people.invitation("link", NOW.plusSeconds(60))).as("over").isEmpty();

    List<Callable<Optional<Account>>> tries = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      tries.add(() -> people.accept("link", "hash", NOW));
    }
    int joined = 0;
    for (Future<Optional<Account>> tried : THREADS.invokeAll(tries)) {
      joined += tried.get().isPresent() ? 1 : 0;
    }
    assertThat(joined).isEqualTo(1);
    long hal = people.account("hal").orElseThrow().id();
    assertThat(access.membership(hal, "invited").orElseThrow().role()).isEqualTo(Role.READER);

    session("hals", hal);
    people.invite(
        "reset", new Invitation("hal", hal, false, List.of(), "admin", NOW.plusSeconds(60)), NOW);
    assertThat(people.accept("reset", "other", NOW).orElseThrow().passwordHash())
        .isEqualTo("other");
    assertThat(access.session("hals", NOW)).as("ended by the reset").isEmpty();
  }

  @Test
  void theLastAdministratorStays() {
    List<Account> others =
        people.accounts().stream().filter(a -> a.administrator() && a.enabled()).toList();
    long ivo = account("ivo", true);
    others.forEach(other -> people.setAdministrator(other.id(), false));

    assertThatThrownBy(() -> people.setEnabled(ivo, false, NOW))
        .hasMessageContaining("last administrator");
    assertThatThrownBy(() -> people.setAdministrator(ivo, false))
        .hasMessageContaining("last administrator");
    assertThat(people.account(ivo).orElseThrow().enabled()).isTrue();
  }
}
