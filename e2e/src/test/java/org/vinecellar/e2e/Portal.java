package org.vinecellar.e2e;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.vinecellar.standins.tracker.TrackerStandIn;

/** A portal that {@code ./cellar start} runs on a data directory of its own. */
final class Portal implements AutoCloseable {
  static final ObjectMapper JSON = new ObjectMapper();
  private static final HttpClient HTTP = HttpClient.newHttpClient();
  private static Portal shared;

  /** A tracker that the shared one may call. */
  static final TrackerStandIn TRACKER = tracker();

  final Path data;
  final String user;
  final String password;
  String token;
  String project;
  String url;

  private static TrackerStandIn tracker() {
    try {
      return TrackerStandIn.start();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private Portal(Path data, JsonNode ready) {
    this.data = data;
    this.url = ready.path("url").asText();
    this.user = ready.path("user").asText();
    this.password = ready.path("password").asText();
    this.token = ready.path("token").asText();
    this.project = ready.path("project").asText();
  }

  /** One for all tests that do not hurt it. */
  static synchronized Portal shared() {
    if (shared == null) {
      shared = start(Map.of("VINE_TRACKER_HOSTS", TRACKER.url().substring("http://".length())));
      Runtime.getRuntime().addShutdownHook(new Thread(shared::close));
    }
    return shared;
  }

  static Portal start() {
    return start(Map.of());
  }

  /** With settings of its own. */
  static Portal start(Map<String, String> environment) {
    // Not made here: a temporary directory of Java's lets nobody else in, and the database's user
    // must get in.
    Path data =
        Path.of("/tmp", "vine-e2e-" + ProcessHandle.current().pid() + "-" + System.nanoTime());
    return start(data, environment);
  }

  /** In that directory. */
  static Portal start(Path data, Map<String, String> environment) {
    return new Portal(data, launch(data, "0", environment));
  }

  private static JsonNode launch(Path data, String port, Map<String, String> environment) {
    Shell.Result result =
        Shell.run(
            Shell.ROOT,
            environment,
            List.of(
                Shell.ROOT.resolve("cellar").toString(),
                "start",
                "--detach",
                "--json",
                "--port",
                port,
                "--data",
                data.toString()));
    if (result.code() != 0) {
      throw new AssertionError("./cellar start ended with " + result);
    }
    return json(result.out());
  }

  /** Starts it again on the same data. */
  void restart() {
    restart(Map.of());
  }

  /** With settings of its own. */
  void restart(Map<String, String> environment) {
    url = launch(data, "0", environment).path("url").asText();
  }

  /** Starts it again at the same address. */
  void restartHere() {
    url = launch(data, Integer.toString(URI.create(url).getPort()), Map.of()).path("url").asText();
  }

  /** Stops the service and its database in good order. */
  void stop() {
    cellar("stop", "--data", data.toString());
  }

  /** A second instance of the service on the database of this one. */
  Portal second() {
    try {
      Path other = data.resolveSibling(data.getFileName() + "-second");
      Map<String, String> environment =
          Map.of(
              "VINE_DB_URL",
              "jdbc:postgresql://127.0.0.1:"
                  + Files.readString(data.resolve("db.port")).strip()
                  + "/vine",
              "VINE_DB_USER",
              "vine",
              "VINE_DB_PASSWORD_FILE",
              data.resolve("db.password").toString());
      launch(other, "0", environment);
      Portal portal = new Portal(other, JSON.createObjectNode());
      portal.url = "http://127.0.0.1:" + Files.readString(other.resolve("service.port")).strip();
      portal.token = token;
      portal.project = project;
      return portal;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  long servicePid() {
    try {
      return Long.parseLong(Files.readString(data.resolve("service.pid")).strip());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  static Shell.Result cellar(String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT.resolve("cellar").toString()));
    command.addAll(Arrays.asList(words));
    return Shell.run(Shell.ROOT, Map.of(), command);
  }

  /** Runs the client as a process. */
  Shell.Result vine(Path directory, String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT.resolve("vine").toString()));
    command.addAll(Arrays.asList(words));
    return Shell.run(
        directory,
        Map.of(
            "VINE_URL",
            url,
            "VINE_TOKEN",
            token,
            "VINE_SPOOL",
            data.resolve("spool").toString(),
            "VINE_RETRY_FOR",
            "0"),
        command);
  }

  /** Runs curl with the token. */
  Shell.Result curl(Path directory, String... words) {
    List<String> command =
        new ArrayList<>(List.of("curl", "-sS", "-H", "Authorization: Bearer " + token));
    command.addAll(Arrays.asList(words));
    return Shell.run(directory, Map.of(), command);
  }

  JsonNode get(String path) {
    return json(send("GET", path, token).body());
  }

  HttpResponse<String> send(String method, String path, String bearer) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(url + path))
            .method(method, HttpRequest.BodyPublishers.noBody());
    if (bearer != null) {
      request.header("Authorization", "Bearer " + bearer);
    }
    return send(request.build());
  }

  HttpResponse<String> send(HttpRequest request) {
    try {
      return HTTP.send(request, HttpResponse.BodyHandlers.ofString());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  static JsonNode json(String text) {
    try {
      return JSON.readTree(text);
    } catch (IOException e) {
      throw new AssertionError("not JSON: " + text, e);
    }
  }

  @Override
  public void close() {
    cellar("stop", "--data", data.toString());
    try (var files = Files.walk(data)) {
      files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
