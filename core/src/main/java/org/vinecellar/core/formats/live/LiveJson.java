package org.vinecellar.core.formats.live;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonFile;
import org.vinecellar.core.formats.json.StepJson;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/**
 * Results and running tests as JSON between client and service while a part comes. What was
 * attached is left out; it comes with the whole part.
 */
public final class LiveJson {
  /** The most results of one batch. */
  public static final int MAX_RESULTS = 5_000;

  /** The most running tests that are told. */
  public static final int MAX_RUNNING = 200;

  private static final StepJson.Extent EXTENT = new StepJson.Extent(200_000, false, true);
  private static final int MAX_TOKENS_OF_RESULT = 200_000;
  private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

  private LiveJson() {}

  /** A batch, as the service reads it. */
  public record Batch(int number, List<TestResult> results, List<RunningNow> running) {
    /** Copies the lists. */
    public Batch {
      results = List.copyOf(results);
      running = List.copyOf(running);
    }
  }

  /** A batch on its way. */
  public static ObjectNode write(Batch batch) {
    ObjectNode node = NODES.objectNode();
    node.put("batch", batch.number());
    ArrayNode running = node.putArray("running");
    for (RunningNow test : batch.running()) {
      ObjectNode one = running.addObject();
      names(one.putArray("suite"), test.suite());
      one.put("name", test.name());
      put(one, "since", test.since());
    }
    ArrayNode results = node.putArray("results");
    batch.results().forEach(result -> results.add(write(result)));
    return node;
  }

  private static ObjectNode write(TestResult result) {
    ObjectNode node = NODES.objectNode();
    names(node.putArray("suite"), result.test().suite().names());
    node.put("name", result.test().name());
    put(node, "parameters", result.test().parameters());
    if (!result.test().variant().isNone()) {
      ObjectNode variant = node.putObject("variant");
      result.test().variant().words().forEach(variant::put);
    }
    node.put("setUp", result.kind() == ResultKind.SETUP);
    put(node, "started", result.started());
    put(node, "file", result.file());
    node.put("line", result.line());
    names(node.putArray("tags"), result.tags());
    ObjectNode properties = node.putObject("properties");
    result.properties().forEach(properties::put);
    ArrayNode attempts = node.putArray("attempts");
    for (Attempt attempt : result.attempts()) {
      ObjectNode one = attempts.addObject();
      one.put("outcome", attempt.outcome().code());
      one.put("us", attempt.durationMicros());
      ArrayNode failures = one.putArray("failures");
      for (Failure failure : attempt.failures()) {
        failures.add(StepJson.ofFailure(failure, EXTENT));
      }
      put(one, "stdout", StepJson.cut(attempt.stdout(), EXTENT));
      put(one, "stderr", StepJson.cut(attempt.stderr(), EXTENT));
      one.set("steps", StepJson.ofSteps(attempt.steps(), EXTENT));
      one.set("logs", StepJson.ofLogs(attempt.logs(), EXTENT));
    }
    return node;
  }

  private static void names(ArrayNode array, List<String> names) {
    names.forEach(array::add);
  }

  private static void put(ObjectNode node, String field, @Nullable Object value) {
    if (value != null) {
      node.put(field, value.toString());
    }
  }

  /**
   * Reads what {@link #write} wrote, a result at a time: however the bytes are arranged, no more is
   * in memory than one result of bounded size beside those that were read.
   *
   * @throws CellarException {@code INVALID_VALUE} when it is none, or passes a limit
   */
  public static Batch read(InputStream json) {
    List<TestResult> results = new ArrayList<>();
    List<RunningNow> running = new ArrayList<>();
    int[] number = new int[1];
    try (JsonParser parser = JsonFile.FACTORY.createParser(json)) {
      JsonCursor cursor = new JsonCursor(parser, MAX_TOKENS_OF_RESULT);
      if (parser.nextToken() != JsonToken.START_OBJECT) {
        throw invalid("is no JSON object");
      }
      cursor.object(
          field -> {
            switch (field) {
              case "batch" -> number[0] = cursor.tree().asInt();
              case "results" -> cursor.array(() -> add(results, cursor.tree()));
              case "running" -> cursor.array(() -> addRunning(running, cursor.tree()));
              default -> {
                // A client of later days may tell more.
              }
            }
          });
      if (parser.nextToken() != null) {
        throw invalid("goes on after its end");
      }
    } catch (JsonProcessingException e) {
      JsonLocation at = e.getLocation();
      throw invalid(
          "is no JSON"
              + (at == null ? "" : ", at line " + at.getLineNr() + ":" + at.getColumnNr()));
    } catch (UnreadableFileException e) {
      throw invalid(e.text());
    } catch (IOException e) {
      throw invalid("cannot be read");
    } catch (IllegalArgumentException | DateTimeParseException e) {
      throw invalid("cannot be read: " + e.getMessage());
    }
    if (number[0] < 1) {
      throw invalid("has no number from 1 in “batch”");
    }
    return new Batch(number[0], results, running);
  }

  private static void add(List<TestResult> results, JsonNode node) {
    if (results.size() == MAX_RESULTS) {
      throw invalid("holds more than " + MAX_RESULTS + " results");
    }
    results.add(result(node));
  }

  private static void addRunning(List<RunningNow> running, JsonNode test) {
    if (running.size() < MAX_RUNNING) {
      running.add(
          new RunningNow(names(test.path("suite")), name(test, "name"), time(test, "since")));
    }
  }

  private static CellarException invalid(String how) {
    return new CellarException(ProblemCode.INVALID_VALUE, "the batch " + how);
  }

  private static TestResult result(JsonNode node) {
    SuitePath suite = SuitePath.of(names(node.path("suite")));
    List<Attempt> attempts = new ArrayList<>();
    for (JsonNode one : node.path("attempts")) {
      List<Failure> failures = new ArrayList<>();
      one.path("failures").forEach(failure -> failures.add(StepJson.failure(failure)));
      attempts.add(
          new Attempt(
              Outcome.ofCode(one.path("outcome").asInt()),
              one.path("us").asLong(TestResult.NO_DURATION),
              failures,
              StepJson.text(one, "stdout"),
              StepJson.text(one, "stderr"),
              StepJson.steps(one.path("steps")),
              StepJson.logs(one.path("logs")),
              List.of()));
    }
    if (attempts.isEmpty()) {
      throw new IllegalArgumentException("a result has no attempt");
    }
    Map<String, String> properties = new LinkedHashMap<>();
    node.path("properties")
        .fields()
        .forEachRemaining(
            field -> {
              if (properties.size() < ReadLimits.DEFAULT.maxProperties()) {
                properties.put(field.getKey(), field.getValue().asText());
              }
            });
    return TestResult.of(
            TestId.of(suite, name(node, "name"), StepJson.text(node, "parameters"))
                .in(variant(node.path("variant"))),
            node.path("setUp").asBoolean() ? ResultKind.SETUP : ResultKind.TEST,
            attempts,
            time(node, "started"),
            properties,
            StepJson.text(node, "file"),
            Math.max(0, node.path("line").asInt()))
        .tagged(names(node.path("tags")));
  }

  private static Variant variant(JsonNode node) {
    Map<String, String> words = new LinkedHashMap<>();
    node.fields().forEachRemaining(word -> words.put(word.getKey(), word.getValue().asText()));
    return Variant.of(words);
  }

  private static List<String> names(JsonNode array) {
    List<String> names = new ArrayList<>();
    for (JsonNode name : array) {
      if (names.size() < ReadLimits.DEFAULT.maxDepth()) {
        names.add(bounded(name.asText()));
      }
    }
    return names;
  }

  private static String name(JsonNode node, String field) {
    return bounded(node.path(field).asText());
  }

  private static String bounded(String name) {
    if (name.length() > ReadLimits.DEFAULT.maxNameChars()) {
      throw new IllegalArgumentException("a name is too long");
    }
    return name.replace('\u0000', '\uFFFD');
  }

  private static @Nullable Instant time(JsonNode node, String field) {
    String text = StepJson.text(node, field);
    return text == null ? null : Instant.parse(text);
  }
}
