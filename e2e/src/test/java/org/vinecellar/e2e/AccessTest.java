package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Sessions, tokens, passwords, and what the API's document says. */
@OnSharedPortal
class AccessTest {
  private final Portal portal = Portal.shared();

  private record SignedIn(String cookie, String csrf) {}

  private SignedIn signIn() {
    return signIn(portal.user, portal.password);
  }

  private HttpResponse<String> trySignIn(String login, String password) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session"))
            .header("Content-Type", "application/json")
            .POST(
                HttpRequest.BodyPublishers.ofString(
                    "{\"login\":\"" + login + "\",\"password\":\"" + password + "\"}"))
            .build());
  }

  private SignedIn signIn(String login, String password) {
    HttpResponse<String> answer = trySignIn(login, password);
    assertThat(answer.statusCode()).isEqualTo(200);
    String cookie = answer.headers().firstValue("Set-Cookie").orElseThrow();
    assertThat(cookie).containsIgnoringCase("HttpOnly").containsIgnoringCase("SameSite=Lax");
    return new SignedIn(
        cookie.substring(0, cookie.indexOf(';')), Portal.json(answer.body()).path("csrf").asText());
  }

  private HttpResponse<String> post(SignedIn who, String csrf, String path, String json) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(portal.url + path))
            .header("Cookie", who.cookie())
            .header("Content-Type", "application/json")
            .POST(HttpRequest.BodyPublishers.ofString(json));
    if (csrf != null) {
      request.header("X-Vine-Csrf", csrf);
    }
    return portal.send(request.build());
  }

  @Test
  void aChangeNeedsTheHeaderThatOnlyOurPagesCanSend() {
    SignedIn admin = signIn();
    String project = "{\"key\":\"forged\",\"name\":\"x\"}";

    assertThat(post(admin, null, "/api/v1/projects", project).statusCode()).isEqualTo(403);
    assertThat(post(admin, "wrong", "/api/v1/projects", project).statusCode()).isEqualTo(403);
    assertThat(post(admin, admin.csrf(), "/api/v1/projects", project).statusCode()).isEqualTo(201);
    assertThat(post(admin, admin.csrf(), "/api/v1/projects", project).statusCode()).isEqualTo(409);
  }

  @Test
  void aRevokedTokenIsRefused() {
    SignedIn admin = signIn();
    JsonNode made =
        Portal.json(
            post(admin, admin.csrf(), "/api/v1/projects/main/tokens", "{\"name\":\"brief\"}")
                .body());
    String secret = made.path("secret").asText();
    assertThat(portal.send("GET", "/api/v1/projects/main", secret).statusCode()).isEqualTo(200);

    portal.send(
        HttpRequest.newBuilder(
                URI.create(
                    portal.url
                        + "/api/v1/projects/main/tokens/"
                        + made.path("token").path("id").asLong()))
            .header("Cookie", admin.cookie())
            .header("X-Vine-Csrf", admin.csrf())
            .DELETE()
            .build());

    assertThat(portal.send("GET", "/api/v1/projects/main", secret).statusCode()).isEqualTo(401);
  }

  @Test
  void aPasswordIsChangedByWhoKnowsItAndEndsOtherSessions() {
    String next = "a longer password";
    String present = People.PASSWORD;
    People people = new People(portal);
    people.join(people.signIn(portal.user, portal.password), "changing", "main", "reader");
    SignedIn here = signIn("changing", present);
    SignedIn elsewhere = signIn("changing", present);

    assertThat(change(here, "guess", next).body()).contains("the present password is not right");
    assertThat(change(here, present, "short").body()).contains("at least 12 characters");
    assertThat(change(here, present, "å".repeat(40)).body()).contains("at most 72 bytes");
    for (String weak : List.of("aaaaaaaaaaaa", "password1234", "changingchanging")) {
      assertThat(change(here, present, weak).statusCode()).as(weak).isEqualTo(400);
    }
    assertThat(change(here, present, next).statusCode()).isEqualTo(204);
    assertThat(session(here)).as("stays").isEqualTo(200);
    assertThat(session(elsewhere)).as("ended").isEqualTo(401);
    assertThat(trySignIn("changing", present).statusCode()).isEqualTo(401);
    assertThat(trySignIn("changing", next).statusCode()).isEqualTo(200);
    assertThat(trySignIn(" Changing ", next).statusCode()).as("as a phone types").isEqualTo(200);
  }

  @Test
  void aTokenEndsAfterWholeDays() {
    SignedIn admin = signIn();
    String tokens = "/api/v1/projects/main/tokens";
    String token = "{\"name\":\"t\",\"scopes\":[\"read\"],\"days\":%s}";
    for (String days : new String[] {"0", "-1", "1.5", "3651", "\"x\""}) {
      assertThat(post(admin, admin.csrf(), tokens, token.formatted(days)).statusCode())
          .as(days)
          .isEqualTo(400);
    }
    JsonNode made =
        Portal.json(post(admin, admin.csrf(), tokens, token.formatted("7")).body()).path("token");
    assertThat(Instant.parse(made.path("expiresAt").asText()))
        .isBetween(Instant.now().plus(Duration.ofDays(6)), Instant.now().plus(Duration.ofDays(8)));
  }

  private HttpResponse<String> change(SignedIn who, String present, String next) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session/password"))
            .header("Cookie", who.cookie())
            .header("X-Vine-Csrf", who.csrf())
            .header("Content-Type", "application/json")
            .PUT(
                HttpRequest.BodyPublishers.ofString(
                    "{\"present\":\"" + present + "\",\"next\":\"" + next + "\"}"))
            .build());
  }

  private int session(SignedIn who) {
    return portal
        .send(
            HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session"))
                .header("Cookie", who.cookie())
                .build())
        .statusCode();
  }

  /** However slowly tries are answered: the wait doubles, so that one of so many falls into it. */
  @Test
  void guessingIsSlowedDown() {
    HttpResponse<String> answer;
    int tries = 0;
    do {
      // Forwarded addresses must not be believed, or guessing would begin anew with each.
      answer =
          portal.send(
              HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session"))
                  .header("Content-Type", "application/json")
                  .header("X-Forwarded-For", "10.0.0." + tries)
                  .POST(
                      HttpRequest.BodyPublishers.ofString(
                          "{\"login\":\"nobody\",\"password\":\"guess" + tries + "\"}"))
                  .build());
      tries++;
      assertThat(answer.statusCode()).isIn(401, 429);
    } while (answer.statusCode() == 401 && tries < 14);

    assertThat(answer.statusCode()).isEqualTo(429);
    assertThat(tries).as("some are free").isGreaterThan(5);
    assertThat(answer.headers().firstValueAsLong("Retry-After").orElse(0)).isPositive();
  }

  @Test
  void theApiDocumentIsOpenApiAndNamesWhatIsServed() throws java.io.IOException {
    JsonNode served = Portal.json(portal.send("GET", "/api/v1/openapi?format=json", null).body());

    assertThat(served.path("openapi").asText()).startsWith("3.1");
    assertThat(served.path("info").path("title").asText()).isEqualTo("Vine Cellar");
    for (JsonNode path : served.path("paths")) {
      for (JsonNode operation : path) {
        assertThat(operation.path("responses").isEmpty()).isFalse();
      }
    }
    assertThat(served.path("components").path("schemas").path("Run").path("required"))
        .as("every field of a body is there")
        .hasSameSizeAs(served.path("components").path("schemas").path("Run").path("properties"));
  }

  @Test
  void unchangedAnswersAreNotSentAgain() throws java.io.IOException {
    Path file = Files.createTempFile("etag", ".xml");
    Files.writeString(file, "<testsuite name='s'><testcase name='a'/></testsuite>");
    portal.vine(file.getParent(), "push", file.toString(), "--stream", "etag/run");
    long run = portal.get("/api/v1/projects/main/runs?stream=etag/run").get(0).path("id").asLong();
    String path = "/api/v1/projects/main/runs/" + run + "/results";
    String tag = portal.send("GET", path, portal.token).headers().firstValue("ETag").orElseThrow();

    HttpResponse<String> again =
        portal.send(
            HttpRequest.newBuilder(URI.create(portal.url + path))
                .header("Authorization", "Bearer " + portal.token)
                .header("If-None-Match", tag)
                .build());

    assertThat(again.statusCode()).isEqualTo(304);
    Files.delete(file);
  }
}
