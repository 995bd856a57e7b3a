package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.Map;

/** Signs people in and invites them, by the API. */
final class People {
  static final String PASSWORD = "a quay of one's own";

  private final Portal portal;

  People(Portal portal) {
    this.portal = portal;
  }

  record SignedIn(String cookie, String csrf) {
    Map<String, String> headers() {
      return Map.of("Cookie", cookie, "X-Vine-Csrf", csrf);
    }
  }

  SignedIn signIn(String login, String password) {
    HttpResponse<String> answer =
        post("/session", "{\"login\":\"" + login + "\",\"password\":\"" + password + "\"}");
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(200);
    return signedIn(answer);
  }

  static SignedIn signedIn(HttpResponse<String> answer) {
    String cookie = answer.headers().firstValue("Set-Cookie").orElseThrow();
    return new SignedIn(
        cookie.substring(0, cookie.indexOf(';')), Portal.json(answer.body()).path("csrf").asText());
  }

  private HttpResponse<String> post(String path, String json) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1" + path))
            .header("Content-Type", "application/json")
            .POST(HttpRequest.BodyPublishers.ofString(json))
            .build());
  }

  HttpResponse<String> call(SignedIn who, String method, String path, String json) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1" + path))
            .header("Content-Type", "application/json");
    who.headers().forEach(request::header);
    return portal.send(
        request
            .method(
                method,
                json == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(json))
            .build());
  }

  /** The secret of an invitation's link. */
  String invite(SignedIn admin, String login, String project, String role) {
    String places =
        project == null ? "[]" : "[{\"project\":\"" + project + "\",\"role\":\"" + role + "\"}]";
    HttpResponse<String> made =
        call(
            admin,
            "POST",
            "/people/invitations",
            "{\"login\":\"" + login + "\",\"administrator\":false,\"projects\":" + places + "}");
    assertThat(made.statusCode()).as(made.body()).isEqualTo(201);
    String url = Portal.json(made.body()).path("url").asText();
    return url.substring(url.indexOf('#') + 1);
  }

  HttpResponse<String> accept(String secret, String password) {
    return post(
        "/session/joining", "{\"secret\":\"" + secret + "\",\"password\":\"" + password + "\"}");
  }

  /** Invites somebody who comes in at once. */
  SignedIn join(SignedIn admin, String login, String project, String role) {
    HttpResponse<String> joined = accept(invite(admin, login, project, role), PASSWORD);
    assertThat(joined.statusCode()).as(joined.body()).isEqualTo(200);
    return signedIn(joined);
  }
}
