package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.HttpURLConnection;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Predicate;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Results are seen while their tests run, and the end is as if the whole had been pushed. */
@OnSharedPortal
class LiveTest {
  private static final Duration PATIENCE = Duration.ofSeconds(30);
  private static Portal portal;
  private @TempDir Path work;

  @BeforeAll
  static void start() {
    portal = Portal.shared();
  }

  private static String started(int id) {
    return "{\"event\":\"test started\",\"id\":\""
        + id
        + "\",\"suite\":[\"Tides\"],\"test\":\"t"
        + id
        + "\",\"time\":\"2026-11-20T06:00:0"
        + id
        + "Z\"}\n";
  }

  private static String finished(int id, String outcome) {
    return "{\"event\":\"test finished\",\"id\":\""
        + id
        + "\",\"outcome\":\""
        + outcome
        + "\",\"ms\":12,\"message\":\"said "
        + id
        + "\"}\n";
  }

  /** The client as a process that is written to. */
  private final class Pipe implements AutoCloseable {
    private final Process process;
    private final OutputStream in;

    Pipe(String... words) throws IOException {
      List<String> command =
          new ArrayList<>(List.of(Shell.ROOT.resolve("vine").toString(), "pipe"));
      command.addAll(List.of(words));
      ProcessBuilder builder = new ProcessBuilder(command).directory(work.toFile());
      builder.environment().put("VINE_URL", portal.url);
      builder.environment().put("VINE_TOKEN", portal.token);
      builder.environment().put("VINE_SPOOL", work.resolve("spool").toString());
      builder.redirectErrorStream(true).redirectOutput(work.resolve("out").toFile());
      process = builder.start();
      in = process.getOutputStream();
    }

    void write(String events) throws IOException {
      in.write(events.getBytes(StandardCharsets.UTF_8));
      in.flush();
    }

    int end() throws IOException, InterruptedException {
      in.close();
      assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
      return process.exitValue();
    }

    @Override
    public void close() {
      process.destroyForcibly();
    }
  }

  private static JsonNode run(String stream) {
    return portal.get("/api/v1/projects/main/runs?stream=" + stream).path(0);
  }

  private static JsonNode parts(JsonNode run) {
    return portal.get("/api/v1/projects/main/runs/" + run.path("id").asLong() + "/parts");
  }

  private static JsonNode until(String stream, Predicate<JsonNode> wanted) {
    long deadline = System.nanoTime() + PATIENCE.toNanos();
    JsonNode run = run(stream);
    while (!wanted.test(run) && System.nanoTime() < deadline) {
      pause();
      run = run(stream);
    }
    assertThat(wanted.test(run)).as("in time: %s", run).isTrue();
    return run;
  }

  private static void pause() {
    try {
      Thread.sleep(50);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static int tests(JsonNode run) {
    return run.path("counts").path("tests").asInt();
  }

  @Test
  void resultsAreSeenBeforeTheEndAndCountOnceAfterIt() throws Exception {
    try (Pipe pipe = new Pipe("--stream", "live-events", "--run", "7", "--part", "tides")) {
      pipe.write(started(1) + finished(1, "failed") + started(2));
      JsonNode open = until("live-events", run -> tests(run) == 1);
      assertThat(open.path("open").asBoolean()).isTrue();
      assertThat(open.path("counts").path("failed").asInt()).isEqualTo(1);
      JsonNode part = parts(open).path(0);
      assertThat(part.path("live").asBoolean()).isTrue();
      assertThat(part.path("running").path(0).path("name").asText()).isEqualTo("t2");
      JsonNode failing =
          portal.get("/api/v1/projects/main/runs/" + open.path("id").asLong() + "/results").path(0);
      assertThat(failing.path("firstLine").asText()).isEqualTo("said 1");

      pipe.write(finished(2, "passed"));
      until("live-events", run -> tests(run) == 2);
      pipe.write(started(3) + finished(3, "skipped") + "{\"event\":\"run finished\"}\n");
      assertThat(pipe.end()).isZero();
    }
    JsonNode ended = run("live-events");
    assertThat(tests(ended)).isEqualTo(3);
    JsonNode parts = parts(ended);
    assertThat(parts).as("the whole part took the place of the provisional one").hasSize(1);
    assertThat(parts.path(0).path("live").asBoolean()).isFalse();
    assertThat(parts.path(0).path("name").asText()).isEqualTo("tides");
    assertThat(parts.path(0).path("files").path(0).path("format").asText())
        .isEqualTo("vine-events");
    JsonNode suites =
        portal.get("/api/v1/projects/main/runs/" + ended.path("id").asLong() + "/suites");
    assertThat(suites).hasSize(1);
    assertThat(suites.path(0).path("counts").path("tests").asInt()).isEqualTo(3);

    portal.vine(work, "close", "--stream", "live-events", "--run", "7");
    assertThat(run("live-events").path("closedBy").asText()).isEqualTo("hand");
  }

  @Test
  void theSamePipedTwiceIntoARunCountsOnce() throws Exception {
    String events = started(1) + finished(1, "passed") + "{\"event\":\"run finished\"}\n";
    for (int i = 0; i < 2; i++) {
      try (Pipe pipe = new Pipe("--stream", "live-twice", "--run", "9", "--expect-parts", "1")) {
        pipe.write(events);
        Thread.sleep(1500);
        assertThat(pipe.end()).isZero();
      }
    }
    JsonNode run = run("live-twice");
    assertThat(tests(run)).isEqualTo(1);
    assertThat(parts(run)).hasSize(1);
    assertThat(run.path("open").asBoolean()).isFalse();
  }

  @Test
  void aPipeThatDiesLeavesWhatCameBrokenOffAndItsCopyIsFound() throws Exception {
    try (Pipe pipe = new Pipe("--stream", "live-broken", "--run", "8")) {
      pipe.write(started(1) + finished(1, "passed") + started(2));
      until("live-broken", run -> tests(run) == 1);
    }
    portal.vine(work, "close", "--stream", "live-broken", "--run", "8");

    JsonNode run = run("live-broken");
    assertThat(run.path("open").asBoolean()).isFalse();
    assertThat(tests(run)).isEqualTo(1);
    assertThat(run.path("counts").path("setUps").asInt()).as("not green").isEqualTo(1);
    assertThat(parts(run).path(0).path("brokenOff").asBoolean()).isTrue();
    assertThat(parts(run).path(0).path("live").asBoolean()).isFalse();

    Shell.Result flushed = portal.vine(work, "flush", "--spool", "spool");
    assertThat(flushed.code()).as(flushed.toString()).isZero();
    assertThat(flushed.err()).contains("a pipe ended before it had sent");
    JsonNode whole = run("live-broken");
    assertThat(whole.path("number").asInt()).isEqualTo(run.path("number").asInt());
    assertThat(parts(whole)).hasSize(1);
    assertThat(parts(whole).path(0).path("brokenOff").asBoolean()).isTrue();
    assertThat(tests(whole)).as("with the one that ran").isEqualTo(2);
    assertThat(whole.path("counts").path("errored").asInt()).isEqualTo(1);
    assertThat(whole.path("open").asBoolean()).isFalse();
    assertThat(portal.vine(work, "flush", "--spool", "spool").out()).contains("nothing waits");
  }

  @Test
  void whatIsNoResultLeavesNothing() throws Exception {
    for (String words : List.of("sh: 1: gotestt: not found\n", "{\"a\": 1}\n{\"b\": 2}\n")) {
      try (Pipe pipe = new Pipe("--stream", "live-nothing", "--run", "4")) {
        pipe.write(words);
        Thread.sleep(700);
        assertThat(pipe.end()).as(words).isEqualTo(4);
      }
    }
    assertThat(portal.get("/api/v1/projects/main/runs?stream=live-nothing")).isEmpty();
    assertThat(portal.vine(work, "flush", "--spool", "spool").out()).contains("nothing waits");
  }

  @Test
  void whoWatchesIsToldOfEachChange() throws Exception {
    BlockingQueue<String> news = new LinkedBlockingQueue<>();
    HttpURLConnection connection = watch(portal.token);
    Thread reader = new Thread(() -> read(connection, news));
    reader.setDaemon(true);
    reader.start();
    assertThat(connection.getContentType()).startsWith("text/event-stream");

    try (Pipe pipe = new Pipe("--stream", "live-news")) {
      pipe.write(started(1) + finished(1, "passed"));
      JsonNode run = until("live-news", found -> tests(found) == 1);
      String told = "data:" + run.path("id").asLong();
      String line = news.poll(20, TimeUnit.SECONDS);
      while (line != null && !line.replace(" ", "").equals(told)) {
        line = news.poll(20, TimeUnit.SECONDS);
      }
      assertThat(line).isNotNull();
      pipe.write("{\"event\":\"run finished\"}\n");
      assertThat(pipe.end()).isZero();
    }
    assertThat(run("live-news").path("open").asBoolean())
        .as("a run of its own ends with its only part")
        .isFalse();
    // Not disconnected: that would wait for the reader, which waits for the next sign of life.
  }

  @Test
  void newsEndWithTheTokenThatAskedForThem() throws Exception {
    People people = new People(portal);
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    JsonNode made =
        Portal.json(
            people
                .call(
                    admin,
                    "POST",
                    "/projects/main/tokens",
                    "{\"name\":\"watcher\",\"scopes\":[\"read\"]}")
                .body());
    HttpURLConnection connection = watch(made.path("secret").asText());
    BlockingQueue<String> news = new LinkedBlockingQueue<>();
    Thread reader = new Thread(() -> read(connection, news));
    reader.start();
    assertThat(news.poll(40, TimeUnit.SECONDS)).as("a sign of life").isNotNull();
    String token = "/projects/main/tokens/" + made.path("token").path("id").asLong();
    assertThat(people.call(admin, "DELETE", token, null).statusCode()).isEqualTo(204);
    reader.join(40_000);
    assertThat(reader.isAlive()).as("still told of news").isFalse();
  }

  private static HttpURLConnection watch(String token) throws IOException {
    HttpURLConnection connection =
        (HttpURLConnection)
            URI.create(portal.url + "/api/v1/projects/main/news").toURL().openConnection();
    connection.setRequestProperty("Authorization", "Bearer " + token);
    return connection;
  }

  private static void read(HttpURLConnection connection, BlockingQueue<String> news) {
    try (BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(connection.getInputStream(), StandardCharsets.UTF_8))) {
      lines.lines().forEach(news::add);
    } catch (IOException | UncheckedIOException e) {
      news.add("ended: " + e);
    }
  }
}
