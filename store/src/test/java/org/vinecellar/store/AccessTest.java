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
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.access.Account;
import org.vinecellar.core.access.Invitation;
import org.vinecellar.core.access.Member;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Scope;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.SessionStore;
import org.vinecellar.core.access.SignInTries;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.access.TokenStore.Pipeline;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Projects, tokens, accounts and sessions on a real PostgreSQL, with the time given. */
class AccessTest {
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Set<Scope> BOTH = Set.of(Scope.SEND, Scope.READ);
  private final ProjectStore projects = STORE.stores().projects();
  private final TokenStore tokens = STORE.stores().tokens();
  private final SessionStore sessions = STORE.stores().sessions();
  private final SignInTries attempts = STORE.stores().tries();
  private final PeopleStore people = STORE.stores().people();

  private Token token(Project project, String hash) {
    return tokens.createForProject(
        project.id(), new Token.New("nightly", hash, "wxyz", BOTH, "ada", null), NOW);
  }

  @Test
  void aKeyIsTakenOnce() {
    Project fares = projects.create("fares", "Fares", null, NOW);

    assertThat(projects.project("fares")).contains(fares);
    assertThat(projects.project("Fares")).isEmpty();
    assertThatThrownBy(() -> projects.create("fares", "Other", null, NOW))
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.ALREADY_EXISTS))
        .hasMessage("a project with the key “fares” exists already");
    assertThat(projects.projects()).contains(fares);
  }

  @Test
  void aTokenOpensItsProjectUntilItIsRevoked() {
    Project project = projects.create("tokens", "Tokens", null, NOW);
    Project other = projects.create("tokens-other", "Other", null, NOW);
    Token token = token(project, "hash-1");
    token(other, "hash-2");

    assertThat(tokens.pipeline("hash-1", NOW)).contains(new Pipeline(project, "nightly", BOTH));
    assertThat(tokens.pipeline("hash-2", NOW)).contains(new Pipeline(other, "nightly", BOTH));
    assertThat(tokens.pipeline("hash-3", NOW)).isEmpty();
    assertThat(tokens.ofProject(project.id()).get(0).lastUsedAt()).isEqualTo(NOW);

    assertThat(tokens.revokeOfProject(other.id(), token.id(), NOW)).as("from elsewhere").isFalse();
    assertThat(tokens.revokeOfProject(project.id(), token.id(), NOW)).isTrue();
    assertThat(tokens.revokeOfProject(project.id(), token.id(), NOW)).as("once").isFalse();
    assertThat(tokens.pipeline("hash-1", NOW)).isEmpty();
    assertThat(tokens.ofProject(project.id()).get(0).revokedAt()).isEqualTo(NOW);
  }

  @Test
  void validTokensComeFirst() {
    Project project = projects.create("order", "Order", null, NOW);
    Token first = token(project, "order-1");
    Token second = token(project, "order-2");
    Token third = token(project, "order-3");
    tokens.revokeOfProject(project.id(), third.id(), NOW);

    assertThat(tokens.ofProject(project.id()))
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
    for (Future<Boolean> tried : STORE.threads().invokeAll(tries)) {
      made += tried.get() ? 1 : 0;
    }

    assertThat(made).isEqualTo(1);
    assertThat(people.hasAccounts()).isTrue();
    assertThat(people.account("ada")).isPresent();
    assertThat(people.account("bo")).isEmpty();
  }

  private long account(String login, boolean administrator) {
    people.createAccount(login, "hash", administrator, NOW);
    return people.account(login).orElseThrow().id();
  }

  private void session(String hash, long account) {
    Session session = new Session(0, account, "x", false, "csrf", NOW.plusSeconds(60));
    sessions.create(hash, session, "browser", "127.0.0.1", NOW);
  }

  @Test
  void aSessionLastsUntilItsEndOrUntilTheAccountIsDisabled() {
    long cy = account("cy", false);
    session("session-1", cy);
    session("session-2", cy);

    assertThat(sessions.session("session-1", NOW.plusSeconds(59)).orElseThrow().login())
        .isEqualTo("cy");
    assertThat(sessions.session("session-1", NOW.plusSeconds(61))).isEmpty();
    assertThat(sessions.sessions(cy, NOW)).hasSize(2);
    sessions.end("session-1");
    assertThat(sessions.session("session-1", NOW)).isEmpty();
    sessions.dropExpired(NOW.plusSeconds(61));
    assertThat(sessions.session("session-2", NOW)).as("dropped").isEmpty();

    account("admin-of-sessions", true);
    tokens.createForPerson(cy, new Token.New("mine", "own", "wxyz", BOTH, "cy", null), NOW);
    session("session-3", cy);
    people.setEnabled(cy, false, NOW);
    assertThat(sessions.session("session-3", NOW)).isEmpty();
    assertThat(tokens.person("own", NOW)).isEmpty();
    people.setEnabled(cy, true, NOW);
    assertThat(sessions.session("session-3", NOW)).as("stays ended").isEmpty();
    assertThat(tokens.person("own", NOW).orElseThrow().account().login()).isEqualTo("cy");
  }

  @Test
  void aTokenEndsWhenItsTimeIsOver() {
    Project project = projects.create("ending", "Ending", null, NOW);
    Token.New brief = new Token.New("b", "ends", "wxyz", BOTH, "ada", NOW.plusSeconds(10));
    tokens.createForProject(project.id(), brief, NOW);

    assertThat(tokens.pipeline("ends", NOW.plusSeconds(9))).isPresent();
    assertThat(tokens.pipeline("ends", NOW.plusSeconds(10))).isEmpty();
  }

  /** Sixty at once: five go through, whoever is first, and the others wait. */
  @Test
  void triesAreCountedBeforeTheyAreMadeAlsoAtOnce() throws Exception {
    List<Callable<Duration>> tries = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      tries.add(() -> attempts.admit("login:dee@1", 5, Duration.ofMinutes(15), NOW));
    }
    int admitted = 0;
    for (Future<Duration> tried : STORE.threads().invokeAll(tries)) {
      admitted += tried.get().isZero() ? 1 : 0;
    }
    assertThat(admitted).isEqualTo(5);
    assertThat(attempts.admit("login:dee@2", 5, Duration.ofMinutes(15), NOW))
        .as("from elsewhere")
        .isZero();

    Instant later = NOW;
    Duration before = Duration.ZERO;
    for (int i = 0; i < 14; i++) {
      Duration wait = attempts.admit("login:dee@1", 5, Duration.ofMinutes(15), later);
      assertThat(wait).isGreaterThanOrEqualTo(before).isLessThanOrEqualTo(Duration.ofMinutes(15));
      before = wait;
      later = later.plus(wait);
      assertThat(attempts.admit("login:dee@1", 5, Duration.ofMinutes(15), later)).isZero();
    }
    assertThat(before).isEqualTo(Duration.ofMinutes(15));
    attempts.forget("login:dee@1");
    assertThat(attempts.admit("login:dee@1", 5, Duration.ofMinutes(15), later)).isZero();
  }

  @Test
  void membersAreWhatTheyWereMadeAndAnOwnerStays() {
    long fay = account("fay", false);
    long gus = account("gus", false);
    Project project = projects.create("crew", "Crew", fay, NOW);
    Project open = projects.create("open", "Open", fay, NOW);
    projects.change(open.id(), "Open", true);

    assertThat(projects.membership(gus, "crew")).isEmpty();
    assertThat(projects.membership(gus, "open").orElseThrow().role()).isEqualTo(Role.READER);
    people.setMember(project.id(), gus, Role.CONTRIBUTOR, "fay", NOW);
    assertThat(projects.memberships(gus))
        .extracting(m -> m.project().key() + " " + m.role().word())
        .containsExactly("crew contributor", "open reader");
    assertThatThrownBy(() -> people.setMember(project.id(), fay, Role.READER, "fay", NOW))
        .hasMessageContaining("last owner");
    assertThatThrownBy(() -> people.removeMember(project.id(), fay))
        .hasMessageContaining("last owner");
    assertThat(projects.membership(fay, "crew").orElseThrow().role()).isEqualTo(Role.OWNER);
    people.setMember(project.id(), gus, Role.OWNER, "fay", NOW);
    assertThat(people.removeMember(project.id(), fay)).isTrue();
    assertThat(people.members(project.id())).extracting(Member::login).containsExactly("gus");
  }

  @Test
  void anInvitationIsGoodOnceAlsoForManyAtOnce() throws Exception {
    Project project = projects.create("invited", "Invited", null, NOW);
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
    for (Future<Optional<Account>> tried : STORE.threads().invokeAll(tries)) {
      joined += tried.get().isPresent() ? 1 : 0;
    }
    assertThat(joined).isEqualTo(1);
    long hal = people.account("hal").orElseThrow().id();
    assertThat(projects.membership(hal, "invited").orElseThrow().role()).isEqualTo(Role.READER);

    session("hals", hal);
    people.invite(
        "reset", new Invitation("hal", hal, false, List.of(), "admin", NOW.plusSeconds(60)), NOW);
    assertThat(people.accept("reset", "other", NOW).orElseThrow().passwordHash())
        .isEqualTo("other");
    assertThat(sessions.session("hals", NOW)).as("ended by the reset").isEmpty();
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
