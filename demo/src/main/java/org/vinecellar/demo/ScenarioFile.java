package org.vinecellar.demo;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Map;

/** Written scenarios with their steps, in the JSON that Cucumber writes. */
final class ScenarioFile {
  private static final ObjectMapper JSON = new ObjectMapper();
  private static final int LINES_OF_A_SCENARIO = 8;

  /** The steps of each scenario; a table follows its step's text, rows parted by bars. */
  private static final Map<String, List<String>> STEPS =
      Map.ofEntries(
          Map.entry(
              "Every island is served at least twice a day",
              List.of(
                  "Given these islands:|island|harbour||Langey|Vik||Skerrow|Holm",
                  "When the timetable of the high season is made",
                  "Then each island has at least 2 departures a day")),
          Map.entry(
              "No ferry leaves before its crew has rested",
              List.of(
                  "Given the crew of MF Torsnes came in at 23:50",
                  "When the timetable of the next day is made",
                  "Then MF Torsnes does not leave before 09:50")),
          Map.entry(
              "A sailing with livestock does not carry coaches",
              List.of(
                  "Given a sailing to Langey with 12 sheep",
                  "When a coach of 14 m is booked on it",
                  "Then the booking is refused",
                  "And the next sailing without livestock is offered")),
          Map.entry(
              "The last ferry waits for the last train",
              List.of(
                  "Given the train of 23:31 is 12 minutes late",
                  "When the timetable is made",
                  "Then the ferry of 23:40 leaves at 23:52")),
          Map.entry(
              "A sailing is cancelled above force nine",
              List.of(
                  "Given a forecast of force 10 for the outer fairway",
                  "When the duty officer looks at the sailing of 17:15",
                  "Then the sailing is cancelled",
                  "And those who booked it are told")),
          Map.entry(
              "A cancelled sailing is replaced within a day",
              List.of(
                  "Given the sailing of 17:15 was cancelled",
                  "When the weather is calm again",
                  "Then a sailing of the same size leaves within 24 hours")),
          Map.entry(
              "Ice on the inner fairway doubles the crossing time",
              List.of(
                  "Given 8 cm of ice on the inner fairway",
                  "When the timetable of the day is made",
                  "Then the crossing to Holm takes 80 minutes")),
          Map.entry(
              "Midsummer eve follows the Friday timetable",
              List.of(
                  "Given these days:|day|weekday||19 June|Friday||20 June|Saturday",
                  "When the timetable of midsummer is made",
                  "Then 19 June has the departures of a Friday")),
          Map.entry(
              "No freight sails on the first of January",
              List.of(
                  "Given a freight booking for 1 January",
                  "When it is confirmed",
                  "Then it is moved to 2 January",
                  "And the customer is told why")),
          Map.entry(
              "Extra sailings are announced a week before",
              List.of(
                  "Given an extra sailing on 30 May",
                  "When the plan of May is published",
                  "Then it is announced by 23 May")));

  private ScenarioFile() {}

  static void write(Path file, Instant started, List<Suite> suites) throws IOException {
    ArrayNode features = JSON.createArrayNode();
    Instant at = started;
    for (Suite suite : suites) {
      ObjectNode feature = features.addObject();
      String name = suite.name().replace("Timetable rules: ", "");
      feature.put("uri", "features/" + name.replace(' ', '_') + ".feature");
      feature.put("keyword", "Feature").put("name", suite.name()).put("line", 2);
      feature.putArray("tags").addObject().put("name", "@timetable");
      ArrayNode elements = feature.putArray("elements");
      int line = 5;
      for (Case one : suite.cases()) {
        scenario(elements.addObject(), one, at, line);
        at = at.plusMillis(Math.round(one.seconds() * 1000));
        line += LINES_OF_A_SCENARIO;
      }
    }
    Files.write(file, JSON.writeValueAsBytes(features));
  }

  private static void scenario(ObjectNode scenario, Case one, Instant at, int line) {
    scenario.put("type", "scenario").put("keyword", "Scenario").put("name", one.name());
    scenario.put("line", line).put("start_timestamp", at.toString());
    ArrayNode steps = scenario.putArray("steps");
    List<String> texts = STEPS.getOrDefault(one.name(), List.of());
    for (int i = 0; i < texts.size(); i++) {
      step(steps.addObject(), one, texts.get(i), line + 1 + i, i == texts.size() - 1);
    }
  }

  private static void step(ObjectNode step, Case one, String written, int line, boolean last) {
    String text =
        written.substring(0, written.contains("|") ? written.indexOf('|') : written.length());
    step.put("keyword", text.substring(0, text.indexOf(' ') + 1));
    step.put("name", text.substring(text.indexOf(' ') + 1)).put("line", line);
    if (written.contains("|")) {
      ArrayNode rows = step.putArray("rows");
      for (String row : written.substring(written.indexOf('|') + 1).split("\\|\\|")) {
        ArrayNode cells = rows.addObject().putArray("cells");
        List.of(row.split("\\|")).forEach(cells::add);
      }
    }
    Case.Failure failure = one.failure();
    ObjectNode result = step.putObject("result");
    if (one.skipped() != null) {
      result.put("status", text.startsWith("Given") ? "pending" : "skipped");
    } else {
      result.put("status", failure != null && last ? "failed" : "passed");
      result.put("duration", Math.round(one.seconds() * 1e9 / 3));
    }
    if (failure != null && last) {
      result.put("error_message", failure.type() + ": " + failure.message());
      attach(
          step,
          "departures.json",
          "{\"ferry\":\"23:40\",\"waitsFor\":\"23:31\",\"left\":\"23:40\"}");
    }
  }

  private static void attach(ObjectNode step, String name, String content) {
    step.putArray("embeddings")
        .addObject()
        .put("name", name)
        .put("mime_type", "application/json")
        .put("data", Base64.getEncoder().encodeToString(content.getBytes(StandardCharsets.UTF_8)));
  }
}
