package org.vinecellar.service.access;

import com.fasterxml.jackson.databind.ObjectMapper;
import io.quarkus.runtime.StartupEvent;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.InstantSource;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jboss.logging.Logger;
import org.vinecellar.core.access.PeopleStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Scope;
import org.vinecellar.core.access.Token;
import org.vinecellar.core.access.TokenStore;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/** On an empty database: the first administrator, project and token, told once. */
@Singleton
public class FirstStart {
  private static final Logger LOG = Logger.getLogger(FirstStart.class);

  private final ProjectStore projects;
  private final TokenStore tokens;
  private final PeopleStore people;
  private final InstantSource clock;
  private final VineConfig config;
  private final ObjectMapper json;

  FirstStart(
      ProjectStore projects,
      TokenStore tokens,
      PeopleStore people,
      InstantSource clock,
      VineConfig config,
      ObjectMapper json) {
    this.projects = projects;
    this.tokens = tokens;
    this.people = people;
    this.clock = clock;
    this.config = config;
    this.json = json;
  }

  void onStart(@Observes StartupEvent event) {
    if (people.hasAccounts()) {
      return;
    }
    Instant now = clock.instant();
    String user = Names.login(config.first().user());
    String password = Secrets.random(12);
    if (!people.createAccount(user, SignIn.hash(password), true, now)) {
      return;
    }
    String key = config.first().project();
    long owner = people.account(user).orElseThrow().id();
    Project project =
        projects
            .project(key)
            .orElseGet(() -> projects.create(key, config.first().projectName(), owner, now));
    String token = Secrets.newToken(project.key());
    tokens.createForProject(
        project.id(),
        new Token.New(
            "first token",
            Secrets.hash(token),
            token.substring(token.length() - 4),
            EnumSet.of(Scope.SEND, Scope.READ, Scope.EDIT),
            user,
            null),
        now);
    tell(user, password, project.key(), token);
  }

  private void tell(String user, String password, String project, String token) {
    Map<String, String> access = new LinkedHashMap<>();
    access.put("project", project);
    access.put("user", user);
    access.put("password", password);
    access.put("token", token);
    try {
      String text = json.writeValueAsString(access);
      if (config.first().accessFile().isPresent()) {
        Path file = Path.of(config.first().accessFile().get());
        Files.deleteIfExists(file);
        Files.createFile(
            file,
            PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString("rw-------")));
        Files.writeString(file, text);
      } else {
        LOG.warnf("First start. Keep this, it is not shown again: %s", text);
      }
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the first sign-in could not be written: " + e, e);
    }
  }
}
