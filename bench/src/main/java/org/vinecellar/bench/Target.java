package org.vinecellar.bench;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Locale;
import java.util.Map;

/** A portal and the database behind it, as {@code ./cellar bench} started them. */
record Target(
    String url,
    String token,
    String adminPassword,
    String database,
    String password,
    long servicePid) {
  private static final HttpClient HTTP = HttpClient.newHttpClient();

  static Target fromProperties() {
    return named("");
  }

  /** Another one, that is there beside it for some parts. */
  static Target other() {
    return named("other.");
  }

  private static Target named(String name) {
    String prefix = "VINE_BENCH_" + name.toUpperCase(Locale.ROOT).replace('.', '_');
    return new Target(
        System.getProperty("bench." + name + "url"),
        System.getenv(prefix + "TOKEN"),
        System.getenv(prefix + "PASSWORD"),
        System.getProperty("bench." + name + "db"),
        System.getenv(prefix + "DB_PASSWORD"),
        Long.parseLong(System.getProperty("bench." + name + "service")));
  }

  Connection connection() throws SQLException {
    return DriverManager.getConnection(database, "vine", password);
  }

  /** The answer of the portal's API to a path below the project. */
  String get(String path) throws IOException, InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(url + "/api/v1/projects/bench/" + path))
            .header("Authorization", "Bearer " + token)
            .build();
    HttpResponse<String> answer = HTTP.send(request, HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() != 200) {
      throw new IOException(path + " answered " + answer.statusCode());
    }
    return answer.body();
  }

  /** Sends JSON to a path below the project. */
  void post(String path, String json) throws IOException, InterruptedException {
    String unused = answer(path, json);
  }

  /** The answer to JSON that is sent to a path below the project. */
  String answer(String path, String json) throws IOException, InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(URI.create(url + "/api/v1/projects/bench/" + path))
            .header("Authorization", "Bearer " + token)
            .header("Content-Type", "application/json")
            .POST(HttpRequest.BodyPublishers.ofString(json))
            .build();
    HttpResponse<String> answer = HTTP.send(request, HttpResponse.BodyHandlers.ofString());
    if (answer.statusCode() != 200) {
      throw new IOException(path + " answered " + answer.statusCode() + ": " + answer.body());
    }
    return answer.body();
  }

  Map<String, String> environment() {
    return Map.of("VINE_URL", url, "VINE_TOKEN", token);
  }
}
