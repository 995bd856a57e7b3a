package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.io.OutputStream;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Many jobs at once, slow ones among them, and clocks that are off. */
@OnSharedPortal
class ShardsTest {
  private static final String BOUNDARY = "quay";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private static String form(String stream, String run, String part, String xml, int parts) {
    StringBuilder form = new StringBuilder();
    String[][] fields = {
      {"stream", stream}, {"run", run}, {"part", part}, {"expect_parts", Integer.toString(parts)}
    };
    for (String[] field : fields) {
      form.append("--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"" + field[0]);
      form.append("\"\r\n\r\n" + field[1] + "\r\n");
    }
    form.append("--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"file\";");
    form.append(" filename=\"r.xml\"\r\n\r\n" + xml + "\r\n--" + BOUNDARY + "--\r\n");
    return form.toString();
  }

  private HttpResponse<String> post(String form) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/projects/main/uploads"))
            .header("Authorization", "Bearer " + portal.token)
            .header("Content-Type", "multipart/form-data; boundary=" + BOUNDARY)
            .POST(HttpRequest.BodyPublishers.ofString(form))
            .build());
  }

  private JsonNode run(String stream) {
    return portal.get("/api/v1/projects/main/runs?stream=" + stream).path(0);
  }

  @Test
  void aHundredShardsAtOnceAreOneRun() throws Exception {
    ExecutorService threads = Executors.newFixedThreadPool(100);
    try {
      List<Callable<Integer>> shards = new ArrayList<>();
      for (int i = 0; i < 100; i++) {
        String xml =
            "<testsuite name='S'><testcase name='own "
                + i
                + "'/><testcase name='shared'><failure message='"
                + i
                + "'/></testcase></testsuite>";
        String form = form("shards/many", "1", "shard " + i, xml, 100);
        shards.add(() -> post(form).statusCode());
      }
      for (Future<Integer> status : threads.invokeAll(shards)) {
        assertThat(status.get()).isEqualTo(201);
      }
    } finally {
      threads.shutdown();
    }
    JsonNode run = run("shards/many");
    assertThat(run.path("open").asBoolean()).isFalse();
    assertThat(run.path("closedBy").asText()).isEqualTo("parts");
    assertThat(run.path("counts").path("passed").asInt()).isEqualTo(100);
    assertThat(run.path("counts").path("failed").asInt())
        .as("no shard tries it again")
        .isEqualTo(100);
    String path = "/api/v1/projects/main/runs/" + run.path("id").asLong();
    assertThat(portal.get(path + "/parts")).hasSize(100);
    JsonNode shared = portal.get(path + "/results?filter=outcome+eq+%22failed%22&limit=500");
    assertThat(shared).hasSize(100).allMatch(row -> row.path("attempts").asInt() == 1);
    assertThat(run.path("changes").path("newFailing").asInt()).as("of one test").isOne();
  }

  /** Sends the beginning of a suite of one case to run 1, through the client. */
  private void push(String stream, String begun, String... more) throws IOException {
    Path file = Files.writeString(work.resolve("r.xml"), begun + "</testcase></testsuite>");
    List<String> words =
        new ArrayList<>(List.of("push", file.toString(), "--stream", stream, "--run", "1"));
    words.addAll(List.of(more));
    assertThat(portal.vine(work, words.toArray(String[]::new)).code()).isZero();
  }

  @Test
  void onlyWhatIsSaidToBeARetryIsOne() throws IOException {
    String failing = "<testsuite name='S'><testcase name='rounds'><failure message='f'/>";
    String passing = "<testsuite name='S'><testcase name='rounds'>";
    // File, part, attempt; what the run comes to.
    String[][] pushes = {
      {failing, "api", "1", "1 0 0"},
      {passing, "web", "1", "1 1 0"},
      {passing, "api", "2", "0 2 1"},
    };
    for (String[] one : pushes) {
      push("shards/retried", one[0], "--part", one[1], "--attempt", one[2]);
      JsonNode counts = run("shards/retried").path("counts");
      assertThat(counts.path("failed") + " " + counts.path("passed") + " " + counts.path("retried"))
          .as(one[1] + " " + one[2])
          .isEqualTo(one[3]);
    }
  }

  @Test
  void jobsOfAMatrixStayApart() throws IOException {
    String failing = "<testsuite name='S'><testcase name='rounds'><failure message='f'/>";
    String passing = "<testsuite name='S'><testcase name='rounds'>";
    String[][] jobs = {{"17", failing}, {"21", passing}, {"25", passing}};
    for (String[] job : jobs) {
      push(
          "shards/matrix",
          job[1],
          "--part",
          "tests",
          "--variant",
          "jdk=" + job[0],
          "--expect-parts",
          "3");
    }
    JsonNode run = run("shards/matrix");
    assertThat(run.path("counts").path("failed").asInt()).isOne();
    assertThat(run.path("counts").path("passed").asInt()).isEqualTo(2);
    assertThat(run.path("counts").path("retried").asInt()).isZero();
    String results = "/api/v1/projects/main/runs/" + run.path("id").asLong() + "/results";
    JsonNode old = portal.get(results + "?filter=variant.jdk+eq+%2217%22");
    assertThat(old).hasSize(1);
    assertThat(old.get(0).path("variant").path("jdk").asText()).isEqualTo("17");
    JsonNode detail = portal.get(results + "/" + old.get(0).path("id").asText());
    assertThat(detail.path("elsewhere")).hasSize(2);
    assertThat(portal.vine(work, "show", "shards/matrix#1").out())
        .contains("failed   S › rounds {jdk=17}  (new)");
    Shell.Result wrong =
        portal.vine(work, "push", "r.xml", "--stream", "shards/matrix", "--variant", "jdk");
    assertThat(wrong.code()).isEqualTo(2);
    assertThat(wrong.err()).contains("key=value");
  }

  /** Begins an upload and sends only half of it. */
  private Socket half(String form) throws IOException {
    URI uri = URI.create(portal.url);
    Socket socket = new Socket(uri.getHost(), uri.getPort());
    OutputStream out = socket.getOutputStream();
    String head =
        "POST /api/v1/projects/main/uploads HTTP/1.1\r\nHost: quay\r\nAuthorization: Bearer "
            + portal.token
            + "\r\nContent-Type: multipart/form-data; boundary="
            + BOUNDARY
            + "\r\nContent-Length: "
            + form.length()
            + "\r\nConnection: close\r\n\r\n";
    out.write(head.getBytes(StandardCharsets.US_ASCII));
    out.write(form.substring(0, form.length() / 2).getBytes(StandardCharsets.US_ASCII));
    out.flush();
    return socket;
  }

  /** More of them than the portal takes in at a time. */
  @Test
  void slowUploadsHoldUpNobodyAndOneThatIsCutOffLeavesNothing() throws Exception {
    String xml = "<testsuite name='S'><testcase name='slow'/></testsuite>";
    List<Socket> slow = new ArrayList<>();
    try {
      for (int i = 0; i < 20; i++) {
        slow.add(half(form("shards/slow", Integer.toString(i), "p", xml, 1)));
      }
      assertThat(post(form("shards/quick", "1", "p", xml, 1)).statusCode()).isEqualTo(201);

      // One goes on at some hundred bytes a second; the others are cut off.
      String form = form("shards/slow", "0", "p", xml, 1);
      OutputStream out = slow.get(0).getOutputStream();
      for (int at = form.length() / 2; at < form.length(); at += 40) {
        String piece = form.substring(at, Math.min(form.length(), at + 40));
        out.write(piece.getBytes(StandardCharsets.US_ASCII));
        out.flush();
        Thread.sleep(100);
      }
      String answer =
          new String(slow.get(0).getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer).startsWith("HTTP/1.1 201");
    } finally {
      for (Socket socket : slow) {
        socket.close();
      }
    }
    assertThat(post(form("shards/quick", "2", "p", xml, 1)).statusCode()).isEqualTo(201);
    assertThat(portal.get("/api/v1/projects/main/runs?stream=shards/slow")).hasSize(1);
  }

  /** Of the same build it is a clock that is off; otherwise it may be another night. */
  @Test
  void aPartWhoseClockIsOffDoesNotDateTheRun() {
    String xml = "<testsuite name='%s' timestamp='%s'><testcase name='a' time='1'/></testsuite>";
    String build = "https://ci.example/builds/31";
    post(clock("right", xml.formatted("A", "2026-11-20T06:00:00"), build));
    post(clock("off", xml.formatted("B", "2001-01-01T00:00:00"), build));
    post(clock("earlier", xml.formatted("C", "2026-11-20T05:00:00"), build));
    HttpResponse<String> old =
        post(
            clock("old", xml.formatted("D", "2026-10-20T05:00:00"), "https://ci.example/builds/9"));

    JsonNode run = run("shards/clock");
    assertThat(run.path("startedAt").asText()).isEqualTo("2026-11-20T05:00:00Z");
    assertThat(run.path("counts").path("tests").asInt()).isEqualTo(3);
    JsonNode parts = portal.get("/api/v1/projects/main/runs/" + run.path("id").asLong() + "/parts");
    assertThat(parts.get(1).path("startedAt").isNull()).isTrue();
    assertThat(parts.get(1).path("files").get(0).path("problems").get(0).asText())
        .contains("2001-01-01T00:00:00Z", "Is the clock of its machine right?");
    assertThat(Portal.json(old.body()).path("notice").asText())
        .isEqualTo("this begins run #2: run #1 of the same key began 31 days later");
  }

  private static String clock(String part, String xml, String build) {
    String field =
        "--" + BOUNDARY + "\r\nContent-Disposition: form-data; name=\"build_url\"\r\n\r\n";
    return field + build + "\r\n" + form("shards/clock", "1", part, xml, 4);
  }

  @Test
  void yearsOfOldFilesGoInOrderOnceAndWhatIsBrokenIsNamed() throws IOException {
    for (String day : List.of("2025-02-01", "2024-03-01", "2024-12-24")) {
      for (String part : List.of("api", "web")) {
        Path folder = Files.createDirectories(work.resolve("old/tides/" + day));
        String xml = "<testsuite name='S'><testcase name='" + part + "'/></testsuite>";
        Files.writeString(
            folder.resolve(part + ".xml"),
            part.equals("web") && day.startsWith("2025") ? "<html>" : xml);
      }
    }
    String[] words = {"import", "old", "--layout", "{stream}/{at}/{part}.xml", "--json"};
    Shell.Result first = portal.vine(work, words);
    assertThat(first.code()).as(first.err()).isEqualTo(4);
    assertThat(first.err()).contains("tides of 2025-02-01T00:00:00Z, web");
    assertThat(Portal.json(first.out()).path("sent")).hasSize(5);
    JsonNode again = Portal.json(portal.vine(work, words).out()).path("sent");
    assertThat(again).hasSize(5).allMatch(sent -> sent.path("duplicate").asBoolean());

    JsonNode runs = portal.get("/api/v1/projects/main/runs?stream=tides");
    assertThat(runs).hasSize(3).noneMatch(run -> run.path("open").asBoolean());
    assertThat(runs)
        .extracting(run -> run.path("startedAt").asText().substring(0, 10))
        .containsExactly("2025-02-01", "2024-12-24", "2024-03-01");
  }
}
