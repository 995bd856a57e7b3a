package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;

/**
 * What follows a change of a run, here what changed in the run after it, is done whatever dies
 * meanwhile, by whichever instance.
 */
@OnOwnPortal
class WorkTest {
  private static final int STREAMS = 6;
  private static final int PARTS = 24;
  private static final String MANY = "/api/v1/projects/main/";

  private final HttpClient http = HttpClient.newHttpClient();

  @Test
  void nothingIsLeftUndoneWhenInstancesDie() throws Exception {
    try (Portal first = Portal.start();
        Portal second = first.second()) {
      List<Portal> portals = List.of(first, second);
      for (int stream = 0; stream < STREAMS; stream++) {
        send(portals, 0, stream, "one", "<testcase name='t0'/>");
        send(portals, 0, stream, "two", allFailing());
      }
      AtomicInteger sent = new AtomicInteger();
      ExecutorService pipelines = Executors.newFixedThreadPool(STREAMS);
      List<Future<Map<String, String>>> expected = new ArrayList<>();
      for (int stream = 0; stream < STREAMS; stream++) {
        int own = stream;
        expected.add(pipelines.submit(() -> lateParts(portals, own, sent)));
      }
      for (int kill = 1; kill <= 3; kill++) {
        int enough = kill * STREAMS * PARTS / 5;
        await(() -> sent.get() >= enough);
        kill(portals.get(kill % 2));
      }
      for (int stream = 0; stream < STREAMS; stream++) {
        Map<String, String> wanted = expected.get(stream).get();
        int own = stream;
        for (Portal portal : portals) {
          assertThat(settled(portal, own, wanted)).isEqualTo(wanted);
        }
      }
      pipelines.shutdown();
      assertThat(first.get(MANY + "streams")).hasSize(STREAMS);
    }
  }

  /** Each brings one more test to the run before; answers what its failures are from then on. */
  private Map<String, String> lateParts(List<Portal> portals, int stream, AtomicInteger sent)
      throws Exception {
    Random random = new Random(stream);
    Map<String, String> wanted = new TreeMap<>();
    wanted.put("t0", "new failing");
    for (int test = 1; test <= PARTS; test++) {
      boolean failed = random.nextBoolean();
      String body =
          "<testcase name='t" + test + "'>" + (failed ? "<failure/>" : "") + "</testcase>";
      wanted.put("t" + test, failed ? "failing as before" : "new failing");
      send(portals, test, stream, "one", body);
      sent.incrementAndGet();
    }
    return wanted;
  }

  private static String allFailing() {
    StringBuilder cases = new StringBuilder();
    for (int test = 0; test <= PARTS; test++) {
      cases.append("<testcase name='t").append(test).append("'><failure/></testcase>");
    }
    return cases.toString();
  }

  /** As wanted, or what there is after a minute; an instance may still be coming up again. */
  private Map<String, String> settled(Portal portal, int stream, Map<String, String> wanted)
      throws InterruptedException {
    Map<String, String> seen = Map.of();
    for (int i = 0; i < 600 && !seen.equals(wanted); i++) {
      Thread.sleep(100);
      try {
        seen = changes(portal, stream);
      } catch (RuntimeException e) {
        continue;
      }
    }
    return seen;
  }

  private Map<String, String> changes(Portal portal, int stream) {
    JsonNode run = portal.get(MANY + "runs?limit=1&number=2&stream=work/s" + stream).get(0);
    Map<String, String> changes = new TreeMap<>();
    portal
        .get(MANY + "runs/" + run.path("id").asLong() + "/results?limit=500")
        .forEach(row -> changes.put(row.path("name").asText(), row.path("change").asText()));
    return changes;
  }

  /** Until it is acknowledged, by one instance or the other. */
  private void send(List<Portal> portals, int begin, int stream, String run, String cases)
      throws Exception {
    String fields =
        "work/s"
            + stream
            + "\r\n--quay\r\nContent-Disposition: form-data; name=\"run\"\r\n\r\n"
            + run;
    byte[] form =
        Attacker.form(fields, "<testsuite name='s" + stream + "'>" + cases + "</testsuite>");
    for (int attempt = begin; attempt < begin + 2_000; attempt++) {
      Portal portal = portals.get(attempt % portals.size());
      HttpRequest request =
          HttpRequest.newBuilder(URI.create(portal.url + MANY + "uploads"))
              .header("Authorization", "Bearer " + portal.token)
              .header("Content-Type", "multipart/form-data; boundary=quay")
              .timeout(Duration.ofSeconds(20))
              .POST(HttpRequest.BodyPublishers.ofByteArray(form))
              .build();
      try {
        int status = http.send(request, HttpResponse.BodyHandlers.ofString()).statusCode();
        if (status == 200 || status == 201) {
          return;
        }
      } catch (IOException e) {
        // It was killed meanwhile; the other one, or itself later, takes it.
        Thread.sleep(100);
      }
    }
    throw new AssertionError("an upload was never taken");
  }

  private static void kill(Portal portal) throws Exception {
    new ProcessBuilder("kill", "-9", Long.toString(portal.servicePid())).start().waitFor();
  }

  private interface Reached {
    boolean now() throws Exception;
  }

  private static void await(Reached reached) throws Exception {
    for (int i = 0; i < 1_800; i++) {
      try {
        if (reached.now()) {
          return;
        }
      } catch (RuntimeException e) {
        // The instance that is asked comes up again.
      }
      Thread.sleep(100);
    }
    assertThat(reached.now()).as("reached").isTrue();
  }
}
