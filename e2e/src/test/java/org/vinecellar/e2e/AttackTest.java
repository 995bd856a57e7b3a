package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.parallel.Isolated;
import org.vinecellar.e2e.Attacker.Answer;

/**
 * A portal under attack, with the heap that it has by default. Whatever is done to it, the same
 * process goes on, and others are served meanwhile. Alone on the machine, since it looks at the
 * time.
 */
@Isolated
class AttackTest {
  /** Of a machine with two slow processors; hanging takes minutes. */
  private static final double SOON = 30;

  private static Portal portal;
  private static Attacker attacker;
  private static long process;

  @BeforeAll
  static void start() {
    portal =
        Portal.start(Map.of("VINE_DOOR_WRITE_IDLE", "15S", "VINE_METRICS_TOKEN", Attacker.METRICS));
    attacker = new Attacker(portal);
    process = portal.servicePid();
  }

  @AfterAll
  static void stop() {
    attacker.close();
    portal.close();
  }

  @AfterEach
  void theSameProcessGoesOnAndAnswers() {
    attacker.hangUp();
    assertOthersAreServed();
    assertThat(portal.servicePid()).isEqualTo(process);
    assertThat(ProcessHandle.of(process)).as("the service’s process").isPresent();
  }

  private static void assertOthersAreServed() {
    assertThat(attacker.others())
        .allSatisfy(
            answer -> {
              assertThat(answer.status()).as(answer.body()).isEqualTo(200);
              assertThat(answer.seconds()).isLessThan(SOON);
            });
  }

  private static String one(String name) {
    return "<testsuite name='crowd'><testcase name='" + name + "'/></testsuite>";
  }

  private static void assertTakenOrSentAway(List<Answer> answers, double seconds) {
    assertThat(answers)
        .allSatisfy(
            answer -> {
              assertThat(answer.status()).as(answer.body()).isIn(200, 201, 429, 503);
              assertThat(answer.seconds()).isLessThan(seconds);
              if (answer.status() > 400) {
                assertThat(answer.retryAfter()).matches("[1-9][0-9]*");
              }
            });
  }

  private static int runsOf(String stream) {
    JsonNode runs = portal.get("/api/v1/projects/main/runs?limit=200&stream=" + stream);
    return runs.size();
  }

  @Test
  void fourHundredUploadsAtOnceAreAllAnswered() {
    List<CompletableFuture<Answer>> sent = new ArrayList<>();
    for (int i = 0; i < 400; i++) {
      sent.add(attacker.upload("crowd/s" + i % 8, one("t" + i)));
    }
    assertOthersAreServed();
    List<Answer> answers = Attacker.all(sent);
    assertTakenOrSentAway(answers, 90);
    long taken = answers.stream().filter(answer -> answer.status() == 201).count();
    assertThat(taken).as("most get through").isGreaterThan(200);
    int kept = 0;
    for (int i = 0; i < 8; i++) {
      kept += runsOf("crowd/s" + i);
    }
    assertThat(kept).as("what was acknowledged is there, and nothing else").isEqualTo((int) taken);
  }

  @Test
  void smallUploadsAreNotStarvedByLargeOnes() {
    StringBuilder xml = new StringBuilder("<testsuite name='large'>");
    String output = "<system-out>" + "water ".repeat(150) + "</system-out>";
    for (int i = 0; xml.length() < 50_000_000; i++) {
      xml.append("<testcase name='t").append(i).append("'>").append(output).append("</testcase>");
    }
    byte[] large = xml.append("</testsuite>").toString().getBytes(StandardCharsets.UTF_8);
    List<CompletableFuture<Answer>> slow = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      slow.add(attacker.upload("large/s" + i, large));
    }
    List<CompletableFuture<Answer>> quick = new ArrayList<>();
    for (int i = 0; i < 220; i++) {
      quick.add(attacker.upload("small/s" + i % 8, one("t" + i)));
    }
    assertOthersAreServed();
    List<Answer> answers = Attacker.all(quick);
    assertThat(answers).allSatisfy(a -> assertThat(a.status()).as(a.body()).isEqualTo(201));
    assertThat(slow)
        .as("the large ones take longer than all small ones")
        .anyMatch(l -> !l.isDone());
    assertThat(Attacker.all(slow)).allSatisfy(a -> assertThat(a.status()).isEqualTo(201));
  }

  @Test
  void bodiesThatUnpackToMuchAreNotUnpacked() {
    byte[] body = Attacker.packed("{\"login\":\"", "a", 36_000_000, "\"}");
    List<CompletableFuture<Answer>> sent = new ArrayList<>();
    for (int i = 0; i < 40; i++) {
      sent.add(
          attacker.send(
              attacker
                  .request("/api/v1/session")
                  .header("Content-Type", Attacker.JSON)
                  .header("Content-Encoding", "gzip")
                  .POST(HttpRequest.BodyPublishers.ofByteArray(body))
                  .build()));
    }
    assertThat(Attacker.all(sent)).allSatisfy(a -> assertThat(a.status()).isEqualTo(415));
    Answer large =
        attacker
            .send(
                attacker
                    .request("/api/v1/session")
                    .header("Content-Type", Attacker.JSON)
                    .POST(HttpRequest.BodyPublishers.ofString("\"" + "a".repeat(66_000) + "\""))
                    .build())
            .join();
    assertThat(large.status()).isEqualTo(413);
  }

  /** Of each kind of body there is: a stranger's, a small one, an upload, a live batch. */
  @Test
  void whoStallsInABodyHoldsUpNobody() {
    String bearer = "Bearer " + portal.token;
    for (int i = 0; i < 300; i++) {
      attacker.begin(
          Attacker.head(
                  "POST",
                  i % 2 == 0 ? "/api/v1/session" : "/api/v1/projects/main/uploads",
                  i % 2 == 0
                      ? Map.of("Content-Type", Attacker.JSON, "Content-Length", "1000")
                      : Map.of(
                          "Content-Type",
                          Attacker.FORM,
                          "Authorization",
                          bearer,
                          "Content-Length",
                          "1000"))
              + (i % 2 == 0 ? "{" : "--quay\r\n"));
    }
    assertOthersAreServed();
    assertThat(attacker.upload("stall/others", one("a")).join().status()).isEqualTo(201);

    Socket stranger =
        attacker.begin(
            Attacker.head(
                "POST",
                "/api/v1/projects/main/uploads",
                Map.of("Content-Type", Attacker.FORM, "Content-Length", "1000000")));
    assertThat(Attacker.status(stranger)).as("before any of the body came").isEqualTo(401);
    Socket foreign =
        attacker.begin(
            Attacker.head(
                "POST",
                "/api/v1/projects/other/uploads",
                Map.of(
                    "Content-Type",
                    Attacker.FORM,
                    "Authorization",
                    bearer,
                    "Content-Length",
                    "1000000")));
    assertThat(Attacker.status(foreign)).as("before any of the body came").isEqualTo(404);
    Socket idle =
        attacker.begin(
            Attacker.head(
                    "POST",
                    "/api/v1/session",
                    Map.of("Content-Type", Attacker.JSON, "Content-Length", "1000"))
                + "{");
    assertThat(Attacker.status(idle)).as("given up, or no place for it").isIn(408, 429);
  }

  /** Half a head, and never the rest: the server has nothing to answer, and yet a connection. */
  @Test
  void whoNeverAsksHoldsNoPlaceOfOthers() throws IOException {
    String half = "GET / HTTP/1.1\r\nHost: quay\r\nX-";
    List<Socket> silent = new ArrayList<>();
    for (int i = 0; i < 2100; i++) {
      silent.add(attacker.begin("127.0.0.2", half));
    }
    assertOthersAreServed();
    assertThat(Attacker.isCutOff(silent.get(2099))).as("more than one address may").isTrue();
    // Two addresses could hold all places there are.
    for (int i = 0; i < 2100; i++) {
      silent.add(attacker.begin("127.0.0.3", half));
    }
    assertOthersAreServed();
    assertThat(Attacker.isCutOff(silent.get(0))).as("gives way").isTrue();
    assertThat(Attacker.isCutOff(silent.get(4000))).as("silent for too long").isTrue();
    assertOthersAreServed();
    Socket asks = attacker.begin("127.0.0.2", Attacker.head("GET", "/health/ready", Map.of()));
    assertThat(Attacker.status(asks)).as("there is room again").isEqualTo(200);
  }

  @Test
  void slowReadersHoldNoConnectionToTheDatabase() throws Exception {
    Path work = Files.createTempDirectory("readers");
    byte[] noise = new byte[30 << 20];
    new Random(7).nextBytes(noise);
    Files.write(work.resolve("film.bin"), noise);
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(work.resolve("b.zip")))) {
      zip.putNextEntry(new ZipEntry("index.html"));
      zip.write(noise, 0, 20 << 20);
      zip.closeEntry();
    }
    Files.writeString(work.resolve("r.xml"), one("[[ATTACHMENT|film.bin]]"));
    Shell.Result pushed =
        portal.curl(
            work,
            "-F",
            "stream=readers/all",
            "-F",
            "file=@r.xml",
            "-F",
            "attachment=@film.bin",
            "-F",
            "bundle=@b.zip",
            portal.url + "/api/v1/projects/main/uploads");
    assertThat(pushed.out()).contains("\"number\":1");
    long run =
        portal.get("/api/v1/projects/main/runs?stream=readers/all").get(0).path("id").asLong();
    String id =
        portal
            .get("/api/v1/projects/main/runs/" + run + "/parts")
            .findValue("attachments")
            .get(0)
            .path("id")
            .asText();
    String bearer = "Bearer " + portal.token;
    String attachment = "/api/v1/projects/main/runs/" + run + "/attachments/" + id;
    String bundle =
        portal.get("/api/v1/projects/main/bundles?run=" + run).get(0).path("url").asText();
    List<Socket> readers = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      Socket reader =
          attacker.begin(
              Attacker.head(
                  "GET", attachment, Map.of("Authorization", bearer, "Connection", "close")));
      readers.add(reader);
      if (i == 0) {
        // Of the others some find no place any more: whoever comes first.
        assertThat(Attacker.status(reader)).isEqualTo(200);
      }
    }
    URI page = URI.create(bundle);
    for (int i = 0; i < 40; i++) {
      attacker.begin(
          page,
          "127.0.0.1",
          Attacker.head("GET", page.getRawPath(), Map.of("Connection", "close")));
    }
    // One of them goes on to the end, and gets all of it.
    byte[] read = new byte[noise.length];
    assertThat(readers.get(0).getInputStream().readNBytes(read, 0, read.length))
        .isEqualTo(noise.length);
    assertOthersAreServed();
    assertThat(attacker.upload("readers/others", one("a")).join().status()).isEqualTo(201);
    // Those who go on to take nothing are let go; so are, after 75 s without a question, the
    // connections that the many of the tests before have left open.
    int open = attacker.connections();
    for (int i = 0; i < 240 && open >= 20; i++) {
      Thread.sleep(500);
      open = attacker.connections();
    }
    assertThat(open).isLessThan(20);
  }

  /** Whoever lets large answers be made and does not take them, holds no more than some threads. */
  @Test
  void slowReadersOfWhatIsBeingMadeKeepNobodyWaiting() throws Exception {
    StringBuilder xml = new StringBuilder("<testsuite name='wide'>");
    for (int i = 0; i < 100; i++) {
      String name = i + "long".repeat(450);
      xml.append("<testcase name='" + name + "'><failure message='no'/></testcase>");
    }
    assertThat(
            attacker.upload("readers/wide", xml.append("</testsuite>").toString()).join().status())
        .isEqualTo(201);
    String panel = "{\"kind\":\"worst\",\"title\":\"w\",\"days\":30}";
    String body = "{\"panels\":[" + panel + ("," + panel).repeat(39) + "]}";
    Map<String, String> headers =
        Map.of(
            "Authorization",
            "Bearer " + portal.token,
            "Content-Type",
            Attacker.JSON,
            "Content-Length",
            String.valueOf(body.length()));
    String asked = Attacker.head("POST", "/api/v1/projects/main/boards/sheets", headers) + body;
    List<Socket> readers = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      readers.add(attacker.begin(asked));
    }
    List<Integer> statuses = readers.stream().map(Attacker::status).toList();
    assertThat(statuses).containsOnly(200, 429);
    assertThat(statuses.stream().filter(status -> status == 200)).hasSize(12);
    assertOthersAreServed();
    // Those who go on to take nothing are let go, and there is room again.
    int status = 429;
    for (int i = 0; i < 240 && status == 429; i++) {
      Thread.sleep(500);
      status = Attacker.status(attacker.begin(asked));
    }
    assertThat(status).isEqualTo(200);
  }

  @Test
  void liveBatchesAreReadAsAStream() {
    Answer opened =
        attacker
            .send(
                attacker
                    .known("/api/v1/projects/main/live")
                    .header("Content-Type", Attacker.JSON)
                    .POST(
                        HttpRequest.BodyPublishers.ofString(
                            "{\"stream\":\"live/attacked\",\"run\":\"1\"}"))
                    .build())
            .join();
    String path =
        "/api/v1/projects/main/live/"
            + Portal.json(opened.body()).path("live").asText()
            + "/batches";
    List<String> bombs =
        List.of(
            "{\"batch\":1,\"results\":[" + "{},".repeat(1_300_000) + "{}]}",
            "{\"batch\":1,\"results\":" + "[".repeat(2_000_000),
            "{\"batch\":1,\"results\":[{\"name\":\"a\",\"attempts\":["
                + "{\"steps\":[{}]},".repeat(250_000)
                + "{}]}]}",
            "{\"batch\":1,\"running\":[" + "{},".repeat(1_300_000) + "{}]}");
    for (String bomb : bombs) {
      List<CompletableFuture<Answer>> sent = new ArrayList<>();
      for (int i = 0; i < 20; i++) {
        sent.add(
            attacker.send(
                attacker
                    .known(path)
                    .header("Content-Type", Attacker.JSON)
                    .POST(HttpRequest.BodyPublishers.ofString(bomb))
                    .build()));
      }
      assertThat(Attacker.all(sent))
          .as(bomb.substring(0, 30))
          .allSatisfy(a -> assertThat(a.status()).as(a.body()).isIn(200, 400, 429, 503));
    }
  }

  /** A few hundred kilobytes each, which unpack to four hundred megabytes; four at a time. */
  @Test
  void resultFilesThatUnpackToMuchAreCutWhileTheyAreRead() {
    int times = 400_000_000;
    List<byte[]> bombs =
        List.of(
            Attacker.packed(
                "<testsuite name='s'><testcase name='t'><failure message='m'>",
                "a",
                times,
                "</failure></testcase></testsuite>"),
            Attacker.packed(
                "<testsuite name='s'><testcase name='t'><system-out>",
                "é\n",
                times / 3,
                "</system-out></testcase></testsuite>"),
            Attacker.packed("<testsuite name='s'><testcase name='", "a", times, "'/></testsuite>"),
            Attacker.packed(
                "[{\"uri\":\"a\",\"id\":\"a\",\"keyword\":\"Feature\",\"name\":\"",
                "a",
                times,
                "\",\"elements\":[]}]"));
    for (byte[] bomb : bombs) {
      List<CompletableFuture<Answer>> sent = new ArrayList<>();
      for (int i = 0; i < 4; i++) {
        sent.add(attacker.upload("bomb/s" + i, bomb));
      }
      assertThat(Attacker.all(sent))
          .allSatisfy(a -> assertThat(a.status()).as(a.body()).isIn(200, 201, 413, 422, 503));
    }
  }

  @Test
  void uploadsLieWhereNobodyElseLooksAndGoWithTheirRequest() throws Exception {
    Path spool = portal.data.resolve("service/uploads");
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(spool)))
        .isEqualTo("rwx------");
    assertThat(
            PosixFilePermissions.toString(
                Files.getPosixFilePermissions(portal.data.resolve("service.log"))))
        .isEqualTo("rw-------");
    attacker.upload("lie/down", one("a")).join();
    // Those of tests before may still be read.
    long until = System.nanoTime() + 120_000_000_000L;
    while (names(spool).size() > 1 && System.nanoTime() < until) {
      Thread.sleep(100);
    }
    assertThat(names(spool)).containsExactly("lock");
  }

  private static List<String> names(Path directory) throws IOException {
    try (var files = Files.list(directory)) {
      return files.map(file -> file.getFileName().toString()).toList();
    }
  }

  @Test
  void guessesAreCountedBeforeTheyAreChecked() {
    long begun = System.nanoTime();
    List<CompletableFuture<Answer>> sent = new ArrayList<>();
    for (int i = 0; i < 60; i++) {
      sent.add(attacker.signIn("guessed", "guess " + i));
    }
    List<Answer> answers = Attacker.all(sent);
    // After the five that are free each further one waits twice as long as the one before, from a
    // second on: as many as there was time for, on a busy machine more than on an idle one.
    double seconds = (System.nanoTime() - begun) / 1e9;
    long most = 5 + (long) (Math.log(seconds + 1) / Math.log(2));
    assertThat(answers.stream().filter(a -> a.status() == 401).count()).isLessThanOrEqualTo(most);
    assertThat(answers).allSatisfy(a -> assertThat(a.status()).isIn(401, 429));
    assertThat(answers.stream().filter(a -> a.status() == 429))
        .allSatisfy(a -> assertThat(a.retryAfter()).matches("[1-9][0-9]*"));
  }
}
