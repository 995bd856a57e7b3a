package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;
import org.vinecellar.core.results.TestResult;

/**
 * Steps and log lines as JSON of ours, in the database and between client and service: short names,
 * and nothing where nothing is told.
 */
public final class StepJson {
  private static final int MAX_DEPTH = 50;
  private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

  private StepJson() {}

  /**
   * What is written.
   *
   * @param textChars longer texts are cut
   * @param attachments whether places in the attempt's list of attachments are
   * @param traces whether the traces of failures are
   */
  public record Extent(int textChars, boolean attachments, boolean traces) {}

  /** Steps. */
  public static ArrayNode ofSteps(List<Step> steps, Extent extent) {
    ArrayNode array = NODES.arrayNode();
    for (Step step : steps) {
      ObjectNode node = array.addObject();
      put(node, "keyword", step.keyword());
      node.put("text", step.text());
      node.put("outcome", step.outcome().code());
      put(node, "status", step.status());
      if (step.durationMicros() != TestResult.NO_DURATION) {
        node.put("us", step.durationMicros());
      }
      Failure failure = step.failure();
      if (failure != null) {
        node.set("failure", ofFailure(failure, extent));
      }
      put(node, "argument", cut(step.argument(), extent));
      ArrayNode table = NODES.arrayNode();
      step.table().forEach(row -> row.forEach(table.addArray()::add));
      set(node, "table", table);
      set(node, "logs", ofLogs(step.logs(), extent));
      if (extent.attachments()) {
        ArrayNode places = NODES.arrayNode();
        step.attachments().forEach(places::add);
        set(node, "attachments", places);
      }
      set(node, "steps", ofSteps(step.steps(), extent));
    }
    return array;
  }

  /** A failure. */
  public static ObjectNode ofFailure(Failure failure, Extent extent) {
    ObjectNode node = NODES.objectNode();
    put(node, "type", failure.type());
    put(node, "message", cut(failure.message(), extent));
    if (extent.traces()) {
      put(node, "trace", cut(failure.trace(), extent));
    }
    return node;
  }

  /** Log lines. */
  public static ArrayNode ofLogs(List<LogLine> lines, Extent extent) {
    ArrayNode array = NODES.arrayNode();
    for (LogLine line : lines) {
      ObjectNode node = array.addObject();
      put(node, "time", line.time() == null ? null : line.time().toString());
      put(node, "level", line.level());
      node.put("text", cut(line.text(), extent));
    }
    return array;
  }

  private static void put(ObjectNode node, String field, @Nullable String value) {
    if (value != null) {
      node.put(field, value);
    }
  }

  private static void set(ObjectNode node, String field, ArrayNode array) {
    if (!array.isEmpty()) {
      node.set(field, array);
    }
  }

  /** As long as it may be. */
  public static @Nullable String cut(@Nullable String text, Extent extent) {
    return text == null || text.length() <= extent.textChars()
        ? text
        : text.substring(0, extent.textChars()) + "\n… the rest comes at the end";
  }

  /**
   * Reads steps; those that are nested too deep are left out.
   *
   * @throws IllegalArgumentException for an outcome that there is not
   * @throws DateTimeParseException for a time that is none
   */
  public static List<Step> steps(JsonNode array) {
    return steps(array, 0);
  }

  private static List<Step> steps(JsonNode array, int depth) {
    List<Step> steps = new ArrayList<>();
    for (JsonNode node : depth > MAX_DEPTH ? NODES.arrayNode() : array) {
      List<List<String>> table = new ArrayList<>();
      for (JsonNode row : node.path("table")) {
        List<String> cells = new ArrayList<>();
        row.forEach(cell -> cells.add(clean(cell.asText())));
        table.add(cells);
      }
      List<Integer> attachments = new ArrayList<>();
      node.path("attachments").forEach(place -> attachments.add(place.asInt()));
      steps.add(
          new Step(
              text(node, "keyword"),
              clean(node.path("text").asText()),
              Outcome.ofCode(node.path("outcome").asInt()),
              text(node, "status"),
              node.path("us").asLong(TestResult.NO_DURATION),
              node.path("failure").isObject() ? failure(node.path("failure")) : null,
              text(node, "argument"),
              table,
              logs(node.path("logs")),
              attachments,
              steps(node.path("steps"), depth + 1)));
    }
    return steps;
  }

  /** Reads a failure. */
  public static Failure failure(JsonNode node) {
    return new Failure(text(node, "type"), text(node, "message"), text(node, "trace"));
  }

  /**
   * Reads log lines.
   *
   * @throws DateTimeParseException for a time that is none
   */
  public static List<LogLine> logs(JsonNode array) {
    List<LogLine> lines = new ArrayList<>();
    for (JsonNode node : array) {
      String time = text(node, "time");
      lines.add(
          new LogLine(
              time == null ? null : Instant.parse(time),
              text(node, "level"),
              clean(node.path("text").asText())));
    }
    return lines;
  }

  /** A text without what PostgreSQL cannot hold; null when it is none. */
  public static @Nullable String text(JsonNode node, String field) {
    JsonNode value = node.path(field);
    return value.isTextual() ? clean(value.asText()) : null;
  }

  private static String clean(String text) {
    return text.replace('\u0000', '\uFFFD');
  }
}
