package org.vinecellar.store.results;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.JsonNode;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.store.sql.Json;

/**
 * Steps and log lines as they stand in their columns; short names, nothing where nothing is told.
 */
public final class StepJson {
  private static final TypeReference<JsonNode> NODE = new TypeReference<>() {};

  private StepJson() {}

  /** The column's value; null for no steps. */
  public static @Nullable String steps(List<Step> steps) {
    return steps.isEmpty() ? null : Json.text(steps.stream().map(StepJson::map).toList());
  }

  /** The column's value; null for no lines. */
  public static @Nullable String logs(List<LogLine> lines) {
    return lines.isEmpty() ? null : Json.text(lines.stream().map(StepJson::map).toList());
  }

  private static Map<String, Object> map(Step step) {
    Map<String, Object> map = new LinkedHashMap<>();
    put(map, "keyword", step.keyword());
    map.put("text", step.text());
    map.put("outcome", step.outcome().code());
    put(map, "status", step.status());
    if (step.durationMicros() != TestResult.NO_DURATION) {
      map.put("us", step.durationMicros());
    }
    Failure failure = step.failure();
    if (failure != null) {
      Map<String, Object> told = new LinkedHashMap<>();
      put(told, "type", failure.type());
      put(told, "message", failure.message());
      map.put("failure", told);
    }
    put(map, "argument", step.argument());
    putList(map, "table", step.table());
    putList(map, "logs", step.logs().stream().map(StepJson::map).toList());
    putList(map, "attachments", step.attachments());
    putList(map, "steps", step.steps().stream().map(StepJson::map).toList());
    return map;
  }

  private static Map<String, Object> map(LogLine line) {
    Map<String, Object> map = new LinkedHashMap<>();
    put(map, "time", line.time() == null ? null : line.time().toString());
    put(map, "level", line.level());
    map.put("text", line.text());
    return map;
  }

  private static void put(Map<String, Object> map, String key, @Nullable Object value) {
    if (value != null) {
      map.put(key, value);
    }
  }

  private static void putList(Map<String, Object> map, String key, List<?> list) {
    if (!list.isEmpty()) {
      map.put(key, list);
    }
  }

  /** Steps out of their column. The traces of their failures stand with the attempt. */
  public static List<Step> steps(@Nullable JSONB column) {
    return column == null ? List.of() : steps(Json.read(column.data(), NODE));
  }

  private static List<Step> steps(JsonNode array) {
    List<Step> steps = new ArrayList<>();
    for (JsonNode node : array) {
      List<List<String>> table = new ArrayList<>();
      for (JsonNode row : node.path("table")) {
        List<String> cells = new ArrayList<>();
        row.forEach(cell -> cells.add(cell.asText()));
        table.add(cells);
      }
      List<Integer> attachments = new ArrayList<>();
      node.path("attachments").forEach(place -> attachments.add(place.asInt()));
      JsonNode failure = node.path("failure");
      steps.add(
          new Step(
              text(node, "keyword"),
              node.path("text").asText(),
              Outcome.ofCode(node.path("outcome").asInt()),
              text(node, "status"),
              node.path("us").asLong(TestResult.NO_DURATION),
              failure.isObject()
                  ? new Failure(text(failure, "type"), text(failure, "message"), null)
                  : null,
              text(node, "argument"),
              table,
              logs(node.path("logs")),
              attachments,
              steps(node.path("steps"))));
    }
    return steps;
  }

  /** Log lines out of their column. */
  public static List<LogLine> logs(@Nullable JSONB column) {
    return column == null ? List.of() : logs(Json.read(column.data(), NODE));
  }

  private static List<LogLine> logs(JsonNode array) {
    List<LogLine> lines = new ArrayList<>();
    for (JsonNode node : array) {
      String time = text(node, "time");
      lines.add(
          new LogLine(
              time == null ? null : Instant.parse(time),
              text(node, "level"),
              node.path("text").asText()));
    }
    return lines;
  }

  private static @Nullable String text(JsonNode node, String key) {
    return node.path(key).isTextual() ? node.path(key).asText() : null;
  }
}
