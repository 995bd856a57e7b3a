package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/** Processes are killed under load; what was acknowledged stays, and all comes back by itself. */
@OnOwnPortal
class RecoveryTest {
  private static final int PIPELINES = 50;
  private static final String ONE = "<testsuite name='s'><testcase name='a'/></testsuite>";

  @Test
  void servicePostmasterAndBackendsAreKilledWhileFiftyPipelinesPush() throws Exception {
    try (Portal portal = Portal.start();
        Attacker attacker = new Attacker(portal)) {
      AtomicBoolean going = new AtomicBoolean(true);
      Set<String> acknowledged = ConcurrentHashMap.newKeySet();
      AtomicInteger sent = new AtomicInteger();
      ExecutorService pipelines = Executors.newFixedThreadPool(PIPELINES);
      List<Future<?>> running = new ArrayList<>();
      for (int i = 0; i < PIPELINES; i++) {
        int pipeline = i;
        running.add(
            pipelines.submit(
                () -> {
                  for (int n = 0; going.get(); n++) {
                    push(attacker, "pipeline/p" + pipeline, "t" + n, acknowledged);
                    sent.incrementAndGet();
                  }
                }));
      }
      awaitMore(acknowledged, 40);
      kill(Long.toString(portal.servicePid()));
      awaitReady(portal);
      awaitMore(acknowledged, 40);
      killBackends(portal);
      awaitMore(acknowledged, 40);
      kill(postmaster(portal));
      awaitReady(portal);
      awaitMore(acknowledged, 40);
      going.set(false);
      for (Future<?> one : running) {
        one.get();
      }
      pipelines.shutdown();
      assertThat(sent.get()).isGreaterThan(160);
      Set<String> there = ConcurrentHashMap.newKeySet();
      for (int i = 0; i < PIPELINES; i++) {
        names(portal, "pipeline/p" + i, there);
      }
      assertThat(there).containsAll(acknowledged);

      String said = Files.readString(portal.data.resolve("supervisor.log"));
      assertThat(said)
          .contains("the service ended by itself")
          .contains("the database does not run: starting it");
      Shell.Result again =
          Portal.cellar("start", "--detach", "--json", "--data", portal.data.toString());
      assertThat(again.code()).isZero();
    }
  }

  @Test
  void withoutMemoryOrHalfwayThroughAnUploadItEndsAndBeginsClean() throws Exception {
    try (Portal portal = Portal.start();
        Attacker attacker = new Attacker(portal)) {
      Path spool = portal.data.resolve("service/uploads");
      attacker.begin(halfAnUpload(portal));
      awaitSpooled(spool, 1);
      assertThat(attacker.upload("swept/a", ONE).join().status()).isEqualTo(201);

      long first = portal.servicePid();
      Hoarder.fill(first);
      awaitOther(portal, first);
      assertThat(Files.readString(portal.data.resolve("service.log")))
          .contains("Terminating due to java.lang.OutOfMemoryError");
      awaitSpooled(spool, 0);
      assertThat(attacker.upload("swept/b", ONE).join().status()).isEqualTo(201);

      // Who hangs up leaves nothing behind either, and is no fault of the portal's.
      attacker.hangUp();
      attacker.begin(halfAnUpload(portal));
      awaitSpooled(spool, 1);
      attacker.hangUp();
      awaitSpooled(spool, 0);
      for (int i = 0; i < 20; i++) {
        attacker.begin(anUpload(portal, "hung/s" + i));
      }
      attacker.hangUp();
      assertThat(attacker.upload("hung/last", ONE).join().status()).isEqualTo(201);
      awaitSpooled(spool, 0);
      assertThat(Files.readString(portal.data.resolve("service.log"))).doesNotContain("ERROR");
    }
  }

  private static String anUpload(Portal portal, String stream) {
    String form = new String(Attacker.form(stream, Attacker.tests(20_000)), StandardCharsets.UTF_8);
    return head(portal, form.length()) + form;
  }

  private static String halfAnUpload(Portal portal) {
    return head(portal, 2_000_000)
        + new String(Attacker.form("half/a", "<testsuite>"), StandardCharsets.UTF_8)
            .replace("--quay--", "");
  }

  private static String head(Portal portal, int length) {
    return Attacker.head(
        "POST",
        "/api/v1/projects/main/uploads",
        Map.of(
            "Content-Type",
            Attacker.FORM,
            "Authorization",
            "Bearer " + portal.token,
            "Content-Length",
            Integer.toString(length)));
  }

  /** So many uploads lie there; what is always there is the lock. */
  private static void awaitSpooled(Path spool, int uploads) throws IOException {
    long until = System.nanoTime() + 60_000_000_000L;
    int there = -1;
    while (there != uploads && System.nanoTime() < until) {
      pause();
      try (var files = Files.list(spool)) {
        there = (int) files.count() - 1;
      }
    }
    assertThat(there).as("uploads in the spool").isEqualTo(uploads);
  }

  private static void awaitOther(Portal portal, long first) {
    long until = System.nanoTime() + 90_000_000_000L;
    while (System.nanoTime() < until) {
      try {
        if (portal.servicePid() != first
            && portal.send("GET", "/health/ready", null).statusCode() == 200) {
          return;
        }
      } catch (java.io.UncheckedIOException e) {
        // Nobody answers in this moment.
      }
      pause();
    }
    throw new AssertionError("no other process came up");
  }

  private static void push(
      Attacker attacker, String stream, String test, Set<String> acknowledged) {
    try {
      Attacker.Answer answer =
          attacker
              .upload(stream, "<testsuite name='s'><testcase name='" + test + "'/></testsuite>")
              .join();
      if (answer.status() == 201) {
        acknowledged.add(stream + " " + Portal.json(answer.body()).path("number").asInt());
      }
    } catch (java.util.concurrent.CompletionException e) {
      // Nobody answers in this moment.
      pause();
    }
  }

  private static void names(Portal portal, String stream, Set<String> there) {
    String path = "/api/v1/projects/main/runs?limit=200&stream=" + stream;
    while (path != null) {
      var page = portal.send("GET", path, portal.token);
      for (JsonNode run : Portal.json(page.body())) {
        there.add(stream + " " + run.path("number").asInt());
        assertThat(run.path("counts").path("tests").asInt()).isEqualTo(1);
      }
      path =
          page.headers()
              .firstValue("Link")
              .map(link -> link.substring(1, link.indexOf('>')))
              .orElse(null);
    }
  }

  private static void awaitMore(Set<String> acknowledged, int more) {
    int before = acknowledged.size();
    long until = System.nanoTime() + 120_000_000_000L;
    while (acknowledged.size() < before + more && System.nanoTime() < until) {
      pause();
    }
    assertThat(acknowledged.size()).as("uploads go on").isGreaterThanOrEqualTo(before + more);
  }

  private static void awaitReady(Portal portal) {
    long until = System.nanoTime() + 90_000_000_000L;
    boolean wasAway = false;
    while (System.nanoTime() < until) {
      try {
        boolean ready = portal.send("GET", "/health/ready", null).statusCode() == 200;
        if (ready && wasAway) {
          return;
        }
        wasAway |= !ready;
      } catch (java.io.UncheckedIOException e) {
        wasAway = true;
      }
      pause();
    }
    throw new AssertionError("it did not go away and come back by itself");
  }

  private static void pause() {
    try {
      Thread.sleep(50);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static String postmaster(Portal portal) throws IOException {
    return Files.readAllLines(portal.data.resolve("postgres/postmaster.pid")).get(0);
  }

  private static void killBackends(Portal portal) throws Exception {
    String parent = postmaster(portal);
    try (var processes = Files.list(Path.of("/proc"))) {
      for (Path process :
          processes.filter(p -> p.getFileName().toString().matches("[0-9]+")).toList()) {
        try {
          String command = Files.readString(process.resolve("cmdline"));
          String status = Files.readString(process.resolve("status"));
          if (command.contains("vine")
              && command.contains("postgres:")
              && status.contains("PPid:\t" + parent)) {
            kill(process.getFileName().toString());
            return;
          }
        } catch (IOException e) {
          // It has ended since it was listed.
        }
      }
    }
    throw new AssertionError("no backend was found");
  }

  private static void kill(String pid) throws Exception {
    new ProcessBuilder("kill", "-9", pid).start().waitFor();
  }
}
