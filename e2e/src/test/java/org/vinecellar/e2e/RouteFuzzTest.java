package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/**
 * Every route of the API's document with everything that can be wrong, from a fixed seed: nothing
 * is answered with a fault of the portal, and no answer names a class.
 */
@OnOwnPortal
class RouteFuzzTest {
  private static final long SEED = 20261125;
  private static final int ROUNDS = 14;
  private static final Pattern CLASS =
      Pattern.compile(
          "(?:org|com|io|java|jakarta|javax)\\.[a-z]+\\.[A-Za-z.]+|Exception|\\bat [a-z]+\\.[a-z]+");

  private static final List<String> WORDS =
      List.of(
          "1",
          "0",
          "-1",
          "999999999999",
          "99999999999999999999999",
          "1-1",
          "1-0-0-0",
          "1-99999999999999",
          "main",
          "%00",
          "a%00b",
          "%2e%2e",
          "%2F",
          "..",
          "%ff",
          "%F0%9F%9A%A2",
          "admin",
          "true",
          "null",
          "NaN",
          "1e9",
          "'",
          "%22",
          "%25",
          "a%0d%0ab",
          "x".repeat(400),
          "%E2%80%AE");
  private static final List<String> BODIES =
      List.of(
          "",
          "null",
          "[]",
          "{}",
          "0",
          "\"\"",
          "{",
          "[".repeat(5000),
          "{\"a\":".repeat(3000),
          "{\"login\":null,\"password\":null}",
          "{\"login\":\"a\\u0000b\",\"password\":\"x\\u0000\"}",
          "{\"login\":1,\"password\":[]}",
          "{\"secret\":\"\\u0000\",\"password\":\"aaaaaaaaaaaaaaaaaaaaa\"}",
          "{\"key\":\"\\u0000\",\"name\":\"\\u0000\"}",
          "{\"name\":\"a\\u0000b\",\"scopes\":[null],\"days\":-5}",
          "{\"name\":\"n\",\"scopes\":[],\"days\":99999999999}",
          "{\"name\":\"n\",\"open\":\"perhaps\"}",
          "{\"role\":\"\\u0000\"}",
          "{\"stream\":\"a\\u0000/b\",\"run\":\"\\u0000\",\"labels\":{\"\\u0000\":\"\\u0000\"}}",
          "{\"stream\":\"fuzz/live\",\"run\":\"r\",\"labels\":{\"a\":null},\"expectParts\":-1}",
          "{\"description\":\"\\u0000\",\"labels\":{\"a\":\"\\u0000\"},\"tags\":[\"\\u0000\"]}",
          "{\"description\":null,\"labels\":null,\"tags\":null}",
          "{\"seen\":\"passed\",\"outcome\":\"\\u0000\",\"reason\":\"\\u0000\"}",
          "{\"seen\":null,\"outcome\":null,\"reason\":null}",
          "{\"silenceMinutes\":-1,\"bundleDays\":1e300,\"bundleMegabytes\":2147483648}",
          "{\"silenceMinutes\":2147483647,\"bundleDays\":2147483647,\"bundleMegabytes\":1}",
          "{\"login\":\"x\",\"administrator\":true,\"projects\":[null]}",
          "{\"login\":\"x\",\"administrator\":null,\"projects\":[{\"project\":\"\\u0000\",\"role\":\"owner\"}]}",
          "{\"batch\":1,\"results\":[{\"name\":\"a\\u0000\",\"parameters\":\"\\u0000\",\"suite\":[\"\\u0000\"],\"attempts\":[{\"outcome\":0,\"stdout\":\"\\u0000\"}]}],\"running\":[null]}",
          "{\"batch\":1,\"results\":[{\"name\":\"a\",\"attempts\":[{\"outcome\":0,\"us\":9223372036854775807}],\"started\":\"-999999999-01-01T00:00:00Z\"}]}",
          "\u0000",
          "\ufeff{}",
          "{\"login\":\"\ud83d\",\"password\":\"\ud83d\"}");
  private static final List<Map<String, String>> HEADERS =
      List.of(
          Map.of(),
          Map.of("Content-Type", "application/json"),
          Map.of("Content-Type", "text/plain"),
          Map.of("Content-Type", "application/json; charset=utf-99"),
          Map.of("Content-Type", "multipart/form-data"),
          Map.of("Content-Type", "multipart/form-data; boundary=x"),
          Map.of("Content-Type", "\u0001"),
          Map.of("Content-Type", "application/json", "Accept", "image/png"),
          Map.of("Content-Type", "application/json", "Accept", "nonsense"),
          Map.of("Content-Type", "application/json", "If-Match", "\"1-1\""),
          Map.of("Content-Type", "application/json", "If-Match", "*"),
          Map.of("Content-Type", "application/json", "If-None-Match", "W/\"\""),
          Map.of("Content-Type", "application/json", "Range", "bytes=9-1"),
          Map.of("Content-Type", "application/json", "X-Forwarded-For", "\u0000,;"),
          Map.of("Content-Type", "application/json", "Cookie", "vine_session=%00; vine_session=a"),
          Map.of("Content-Type", "application/json", "Content-Encoding", "gzip"));
  private static final List<String> QUERY =
      List.of(
          "stream", "number", "key", "cursor", "limit", "filter", "of", "text", "at", "suite",
          "parent", "full", "run", "name", "title");

  private static Portal portal;
  private final Random random = new Random(SEED);

  @BeforeAll
  static void start() {
    portal = Portal.start();
  }

  @AfterAll
  static void stop() {
    portal.close();
  }

  @Test
  void nothingThatIsSentIsAFaultOfThePortal() throws Exception {
    People people = new People(portal);
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    List<Map<String, String>> callers =
        List.of(
            admin.headers(),
            Map.of("Authorization", "Bearer " + portal.token),
            Map.of("Authorization", "Bearer \u00e9"),
            Map.of());
    List<String> routes = new ArrayList<>();
    JsonNode paths =
        Portal.json(portal.send("GET", "/api/v1/openapi?format=json", null).body()).path("paths");
    paths.properties().forEach(path -> routes.add(path.getKey()));
    int tried = 0;
    int answered = 0;
    for (String route : routes) {
      for (int round = 0; round < ROUNDS; round++) {
        for (String method : List.of("GET", "POST", "PUT", "DELETE", "PATCH", "HEAD", "OPTIONS")) {
          if (route.endsWith("/news") || isHarmful(method, route)) {
            continue;
          }
          String path = filled(route) + query();
          Map<String, String> caller = callers.get(random.nextInt(callers.size()));
          Map<String, String> headers = HEADERS.get(random.nextInt(HEADERS.size()));
          String body = BODIES.get(random.nextInt(BODIES.size()));
          String answer = exchange(method, path, caller, headers, body);
          tried++;
          answered += answer.isEmpty() ? 0 : 1;
          String what = method + " " + path + " " + headers + " " + body + "\n" + answer;
          assertThat(status(answer)).as(what).isBetween(100, 499);
          String[] parts = answer.split("\r\n\r\n", 2);
          if (status(answer) >= 400 && parts.length == 2) {
            assertThat(CLASS.matcher(parts[1]).find()).as("names a class: " + what).isFalse();
          }
        }
      }
    }
    assertThat(tried).isGreaterThan(2_000);
    assertThat(answered).as("all are answered").isGreaterThan(tried * 98 / 100);
  }

  /** What would end the session that the test itself uses, or let nobody in any more. */
  private static boolean isHarmful(String method, String route) {
    return method.equals("DELETE") && route.startsWith("/api/v1/session")
        || method.equals("PUT") && route.equals("/api/v1/people/{login}")
        || route.endsWith("/session");
  }

  private String filled(String route) {
    StringBuilder path = new StringBuilder();
    for (String word : route.substring(1).split("/")) {
      path.append('/');
      if (word.equals("{project}") && random.nextInt(4) > 0) {
        path.append("main");
      } else {
        path.append(word.startsWith("{") ? WORDS.get(random.nextInt(WORDS.size())) : word);
      }
    }
    return path.toString();
  }

  private String query() {
    StringBuilder query = new StringBuilder();
    for (int i = random.nextInt(4); i > 0; i--) {
      query
          .append(query.isEmpty() ? '?' : '&')
          .append(QUERY.get(random.nextInt(QUERY.size())))
          .append('=')
          .append(WORDS.get(random.nextInt(WORDS.size())));
    }
    return query.toString();
  }

  /** By hand: no client of ours would send such things. */
  private String exchange(
      String method,
      String path,
      Map<String, String> caller,
      Map<String, String> headers,
      String body)
      throws Exception {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    StringBuilder head = new StringBuilder(method + " " + path + " HTTP/1.1\r\nHost: a\r\n");
    caller.forEach((name, value) -> head.append(name + ": " + value + "\r\n"));
    headers.forEach((name, value) -> head.append(name + ": " + value + "\r\n"));
    boolean has = !method.equals("GET") && !method.equals("HEAD");
    head.append("Connection: close\r\nContent-Length: " + (has ? bytes.length : 0) + "\r\n\r\n");
    URI uri = URI.create(portal.url);
    try (Socket socket = new Socket(uri.getHost(), uri.getPort())) {
      socket.setSoTimeout(30_000);
      socket.getOutputStream().write(head.toString().getBytes(StandardCharsets.ISO_8859_1));
      if (has) {
        socket.getOutputStream().write(bytes);
      }
      socket.getOutputStream().flush();
      return new String(socket.getInputStream().readNBytes(200_000), StandardCharsets.UTF_8);
    }
  }

  private static int status(String answer) {
    return answer.length() < 12 ? 499 : Integer.parseInt(answer.substring(9, 12));
  }
}
