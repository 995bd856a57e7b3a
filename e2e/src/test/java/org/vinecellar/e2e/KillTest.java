package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The service is killed in the middle of uploads: what was acknowledged is whole, the rest is not
 * there.
 */
@OnOwnPortal
class KillTest {
  private static final int UPLOADS = 20;
  private static final int TESTS = 4000;

  @Test
  void acknowledgedUploadsAreWholeAndOthersAreNotVisible(@TempDir Path work) throws Exception {
    for (int i = 0; i < UPLOADS; i++) {
      Files.writeString(work.resolve("r" + i + ".xml"), report(i));
    }
    try (Portal portal = Portal.start()) {
      ExecutorService senders = Executors.newFixedThreadPool(UPLOADS);
      List<Future<Shell.Result>> sent = new ArrayList<>();
      for (int i = 0; i < UPLOADS; i++) {
        String file = "r" + i + ".xml";
        String stream = "kill/s" + i;
        String url = portal.url + "/api/v1/projects/main/uploads";
        sent.add(
            senders.submit(
                () -> portal.curl(work, "-F", "stream=" + stream, "-F", "file=@" + file, url)));
      }
      killAfterSome(portal, sent);
      Map<String, Boolean> acknowledged = new HashMap<>();
      for (int i = 0; i < UPLOADS; i++) {
        Shell.Result result = sent.get(i).get();
        acknowledged.put("kill/s" + i, result.code() == 0 && result.out().contains("\"number\":1"));
      }
      senders.shutdown();
      portal.restart();
      check(portal, acknowledged);
      Shell.Result again =
          portal.curl(
              work,
              "-F",
              "stream=kill/s0",
              "-F",
              "file=@r0.xml",
              portal.url + "/api/v1/projects/main/uploads");
      assertThat(Portal.json(again.out()).path("run").path("tests").asInt()).isEqualTo(TESTS);
    }
  }

  /** Once three are through and others are under way. */
  private static void killAfterSome(Portal portal, List<Future<Shell.Result>> sent)
      throws IOException, InterruptedException {
    long deadline = System.nanoTime() + 120_000_000_000L;
    while (sent.stream().filter(Future::isDone).count() < 3 && System.nanoTime() < deadline) {
      Thread.sleep(2);
    }
    new ProcessBuilder("kill", "-9", Long.toString(portal.servicePid())).start().waitFor();
  }

  private static void check(Portal portal, Map<String, Boolean> acknowledged) {
    Set<String> visible = new TreeSet<>();
    for (JsonNode stream : portal.get("/api/v1/projects/main/streams")) {
      visible.add(stream.path("name").asText());
      assertThat(stream.path("latest").path("counts").path("tests").asInt()).isEqualTo(TESTS);
      long run = stream.path("latest").path("id").asLong();
      assertThat(countRows(portal, run)).isEqualTo(TESTS);
    }
    long through = acknowledged.values().stream().filter(yes -> yes).count();
    assertThat(through).isGreaterThanOrEqualTo(3);
    acknowledged.forEach(
        (stream, yes) -> {
          if (yes) {
            assertThat(visible).contains(stream);
          }
        });
    // An upload may have been committed in the moment before its answer was cut off; each such is
    // whole, as checked above. Most of the others must be gone.
    assertThat(visible.size() - through).isLessThanOrEqualTo(4);
  }

  private static int countRows(Portal portal, long run) {
    int rows = 0;
    String cursor = "";
    do {
      var page =
          portal.send(
              "GET",
              "/api/v1/projects/main/runs/" + run + "/results?limit=500" + cursor,
              portal.token);
      rows += Portal.json(page.body()).size();
      cursor =
          page.headers()
              .firstValue("Link")
              .map(link -> "&" + link.replaceAll(".*(cursor=[^&>]+).*", "$1"))
              .orElse("");
    } while (!cursor.isEmpty());
    return rows;
  }

  private static String report(int upload) {
    StringBuilder xml = new StringBuilder("<testsuite name='s" + upload + "'>");
    for (int i = 0; i < TESTS; i++) {
      xml.append("<testcase name='t").append(i).append("' time='0.01'>");
      xml.append(
          i % 50 == 0 ? "<failure message='wrong'>at x</failure></testcase>" : "</testcase>");
    }
    return xml.append("</testsuite>").toString();
  }
}
