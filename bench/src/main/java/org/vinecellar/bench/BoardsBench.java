package org.vinecellar.bench;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** The ready boards, all their panels one after the other, of some streams. */
final class BoardsBench {
  private static final int ROUNDS = 40;
  private static final List<String> READY = List.of("stream", "teams", "release");
  private static final ObjectMapper JSON = new ObjectMapper();

  private final Target target;

  BoardsBench(Target target) {
    this.target = target;
  }

  /**
   * Milliseconds, 95 of 100 took less.
   *
   * @param streams that the names of streams begin with
   * @return of each board, and of each of its panels
   */
  Map<String, Double> measured(String streams) throws IOException, InterruptedException {
    Map<String, Double> p95 = new LinkedHashMap<>();
    for (String ready : READY) {
      JsonNode board =
          JSON.readTree(
              target.answer(
                  "boards/ready",
                  "{\"ready\": \"" + ready + "\", \"name\": \"" + ready + " " + streams + "\"}"));
      List<Double> whole = new ArrayList<>();
      Map<String, List<Double>> each = new LinkedHashMap<>();
      for (int round = 0; round < ROUNDS; round++) {
        double sum = 0;
        for (JsonNode panel : board.path("panels")) {
          ObjectNode asked = JSON.createObjectNode();
          asked.set("panel", panel);
          asked.put("filter", "stream sw \"" + streams + "\"");
          long begun = System.nanoTime();
          String unused = target.answer("boards/sheet", asked.toString());
          double took = (System.nanoTime() - begun) / 1e6;
          if (round >= ROUNDS / 4) {
            each.computeIfAbsent(panel.path("title").asText(), t -> new ArrayList<>()).add(took);
          }
          sum += took;
        }
        if (round >= ROUNDS / 4) {
          whole.add(sum);
        }
      }
      p95.put("board “" + ready + "”", Bench.p95(whole));
      each.forEach(
          (title, times) -> {
            Bench.progress(
                String.format(
                    Locale.ROOT, "%s, %s, %s: %.1f ms", streams, ready, title, Bench.p95(times)));
          });
    }
    return p95;
  }
}
