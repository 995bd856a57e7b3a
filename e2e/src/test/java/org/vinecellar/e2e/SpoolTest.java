package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The portal goes away while pipelines send: nothing is lost, nothing is there twice. */
@OnSharedPortal
class SpoolTest {
  private static final int PUSHES = 12;
  private static final int TESTS = 25;
  private @TempDir Path work;

  private String file(int number) throws IOException {
    StringBuilder xml = new StringBuilder("<testsuite name='s" + number + "'>");
    for (int i = 0; i < TESTS; i++) {
      xml.append("<testcase name='t").append(i).append("'/>");
    }
    String name = "r" + number + ".xml";
    Files.writeString(work.resolve(name), xml.append("</testsuite>").toString());
    return name;
  }

  private static List<JsonNode> runs(Portal portal, String stream) {
    List<JsonNode> runs = new ArrayList<>();
    portal.get("/api/v1/projects/main/runs?limit=100&stream=" + stream).forEach(runs::add);
    return runs;
  }

  @Test
  void aPortalStoppedDuringAPushLoopGetsEverythingOnce() throws Exception {
    try (Portal portal = Portal.start()) {
      AtomicInteger done = new AtomicInteger();
      ExecutorService pipeline = Executors.newSingleThreadExecutor();
      Future<List<Integer>> loop =
          pipeline.submit(
              () -> {
                List<Integer> codes = new ArrayList<>();
                for (int i = 0; i < PUSHES; i++) {
                  codes.add(
                      portal
                          .vine(work, "push", file(i), "--stream", "loop", "--commit", "c" + i)
                          .code());
                  done.incrementAndGet();
                }
                return codes;
              });
      while (done.get() < 3) {
        Thread.sleep(20);
      }
      portal.stop();
      while (done.get() < PUSHES - 3) {
        Thread.sleep(20);
      }
      portal.restartHere();
      List<Integer> codes = loop.get();
      pipeline.shutdown();

      assertThat(codes).contains(0, 6).containsOnly(0, 6);
      Shell.Result flushed = portal.vine(work, "flush");
      assertThat(flushed.code()).as(flushed.toString()).isZero();
      assertThat(portal.vine(work, "flush").out()).startsWith("nothing waits");
      List<JsonNode> runs = runs(portal, "loop");
      assertThat(runs).hasSize(PUSHES);
      assertThat(runs)
          .allSatisfy(run -> assertThat(run.path("counts").path("tests").asInt()).isEqualTo(TESTS));
      assertThat(runs).extracting(run -> run.path("commit").asText()).doesNotHaveDuplicates();
    }
  }

  @Test
  void twoInstancesOnOneDatabaseTakeTheSamePartsOnce() throws Exception {
    try (Portal first = Portal.start();
        Portal second = first.second()) {
      int parts = 8;
      ExecutorService senders = Executors.newFixedThreadPool(4);
      List<Future<Shell.Result>> sent = new ArrayList<>();
      for (int i = 0; i < parts; i++) {
        String name = file(i);
        String part = "part-" + i;
        for (Portal portal : List.of(first, second)) {
          sent.add(
              senders.submit(
                  () ->
                      portal.vine(
                          work, "push", name, "--stream", "both", "--run", "1", "--part", part)));
        }
      }
      while (sent.stream().filter(Future::isDone).count() < 4) {
        Thread.sleep(20);
      }
      new ProcessBuilder("kill", "-9", Long.toString(second.servicePid())).start().waitFor();
      for (Future<Shell.Result> one : sent) {
        assertThat(one.get().code()).isIn(0, 6);
      }
      senders.shutdown();
      // What the second one had not acknowledged waits; its portal is at the first one's address.
      second.url = first.url;
      for (int i = 0; i < parts; i++) {
        first.vine(
            work,
            "push",
            "r" + i + ".xml",
            "--stream",
            "both",
            "--run",
            "1",
            "--part",
            "part-" + i);
      }

      List<JsonNode> runs = runs(first, "both");
      assertThat(runs).hasSize(1);
      assertThat(runs.get(0).path("counts").path("tests").asInt()).isEqualTo(parts * TESTS);
      assertThat(
              first.get("/api/v1/projects/main/runs/" + runs.get(0).path("id").asLong() + "/parts"))
          .hasSize(parts);
    }
  }

  @Test
  void whatAWrongTokenKeptOutWaitsAndWhatIsForOthersIsNamed() throws Exception {
    Portal portal = Portal.shared();
    String spool = work.resolve("spool").toString();
    String wrong = portal.token.substring(0, portal.token.length() - 3) + "AAA";
    Shell.Result refused =
        portal.vine(
            work, "push", file(1), "--stream", "kept-out", "--spool", spool, "--token", wrong);
    assertThat(refused.code()).isEqualTo(5);
    assertThat(refused.err()).contains("the token is not valid", "The upload waits in " + spool);
    Shell.Result still = portal.vine(work, "flush", "--spool", spool, "--token", wrong);
    assertThat(still.code()).isEqualTo(5);
    assertThat(still.err()).contains("still wait");

    String nowhere = "http://127.0.0.1:1";
    for (String url : List.of(nowhere, portal.url.replace("http:", "https:"))) {
      Shell.Result away =
          portal.vine(
              work,
              "push",
              file(2),
              "--stream",
              "elsewhere",
              "--spool",
              spool,
              "--retry-for",
              "0",
              "--url",
              url);
      assertThat(away.code()).isEqualTo(6);
      assertThat(away.err())
          .contains(url.equals(nowhere) ? "nothing answers" : "does not speak TLS", "waits in");
    }
    Shell.Result flushed = portal.vine(work, "flush", "--spool", spool);
    assertThat(flushed.code()).as(flushed.err()).isZero();
    assertThat(flushed.out())
        .contains("elsewhere for " + nowhere + ", project main: 0 min old, ")
        .contains("1 upload sent, 2 left that are for another portal or project");
    assertThat(runs(portal, "kept-out")).hasSize(1);
    assertThat(portal.vine(work, "flush", "--spool", spool, "--discard", "--json").out())
        .contains("\"left\":0,\"discarded\":2");
    assertThat(portal.vine(work, "flush", "--spool", spool).out()).startsWith("nothing waits");
  }
}
