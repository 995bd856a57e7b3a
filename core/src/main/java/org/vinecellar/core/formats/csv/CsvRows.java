package org.vinecellar.core.formats.csv;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Makes a result of each row. */
final class CsvRows {
  private final CsvPlaces columns;
  private final ReadLimits limits;
  private final CaseHandler handler;
  private final Problems problems;
  private int count;

  CsvRows(CsvPlaces columns, ReadLimits limits, CaseHandler handler, Problems problems) {
    this.columns = columns;
    this.limits = limits;
    this.handler = handler;
    this.problems = problems;
  }

  void row(List<String> cells, long number) {
    String name = cell(cells, "test");
    String word = cell(cells, "outcome");
    if (name == null || word == null) {
      problems.add("row " + number + " names no test or no outcome and was left out");
      return;
    }
    if (++count > limits.maxCases()) {
      throw new UnreadableFileException(
          "has more than " + limits.maxCases() + " rows; split it into several files");
    }
    Outcome known = outcome(word);
    if (known == null) {
      problems.add(
          "row " + number + " has the outcome “" + word + "”, which is not known: errored");
    }
    Outcome outcome = known == null ? Outcome.ERRORED : known;
    String parameters = cell(cells, "parameters");
    TestId test =
        parameters == null
            ? TestId.ofPrinted(suite(cells), name(name))
            : TestId.of(suite(cells), name(name), name("[" + parameters + "]"));
    Attempt attempt =
        new Attempt(outcome, micros(cells, number), failures(cells), cell(cells, "output"), null);
    handler.onCase(
        TestResult.of(
                test,
                ResultKind.TEST,
                List.of(attempt),
                started(cells, number),
                properties(cells),
                cell(cells, "file"),
                line(cells))
            .tagged(tags(cells)));
  }

  private @Nullable String cell(List<String> cells, String field) {
    Integer place = columns.places().get(field);
    String cell = place == null || place >= cells.size() ? null : cells.get(place);
    return cell == null || cell.isBlank() ? null : cut(cell.strip());
  }

  private String cut(String text) {
    int most = limits.maxTextChars();
    return text.length() <= most
        ? text
        : text.substring(0, most) + "\n… cut here: longer than " + most + " characters";
  }

  private String name(String text) {
    int most = limits.maxNameChars();
    return text.length() <= most ? text : text.substring(0, most - 1) + "…";
  }

  /** Suites in suites are parted by {@code >}. */
  private SuitePath suite(List<String> cells) {
    SuitePath suite = SuitePath.ROOT;
    String told = cell(cells, "suite");
    int depth = 0;
    for (String word : told == null ? new String[0] : name(told).split(" > ", -1)) {
      if (!word.isBlank() && depth++ < limits.maxDepth()) {
        suite = suite.child(word.strip());
      }
    }
    return suite;
  }

  private static @Nullable Outcome outcome(String word) {
    return switch (word.toLowerCase(Locale.ROOT)) {
      case "passed", "pass", "ok", "success", "successful", "succeeded", "true", "green" ->
          Outcome.PASSED;
      case "failed", "fail", "failure", "not ok", "nok", "ko", "false", "red" -> Outcome.FAILED;
      case "errored", "error", "broken", "crashed", "timeout", "timed out" -> Outcome.ERRORED;
      case "skipped", "skip", "ignored", "disabled", "pending", "todo", "n/a" -> Outcome.SKIPPED;
      case "not reached", "not run", "notrun", "blocked", "cancelled", "aborted" ->
          Outcome.NOT_REACHED;
      default -> null;
    };
  }

  private long micros(List<String> cells, long number) {
    String duration = cell(cells, "duration");
    if (duration == null) {
      return TestResult.NO_DURATION;
    }
    String refusal = columns.refusal(duration);
    if (refusal != null) {
      throw new UnreadableFileException(refusal);
    }
    long micros = DurationUnit.micros(duration, columns.unit());
    if (micros == TestResult.NO_DURATION) {
      problems.add("row " + number + " has a duration that is none");
    }
    return micros;
  }

  /** ISO 8601, or what computers count since 1970: seconds or milliseconds by their length. */
  private @Nullable Instant started(List<String> cells, long number) {
    String told = cell(cells, "started");
    if (told == null) {
      return null;
    }
    Instant started =
        told.matches("[0-9]{9,10}")
            ? Instant.ofEpochSecond(Long.parseLong(told))
            : told.matches("[0-9]{12,13}")
                ? Instant.ofEpochMilli(Long.parseLong(told))
                : Timestamps.parse(told);
    if (Timestamps.sensible(started) == null) {
      problems.add("row " + number + " has a start that is no time like 2026-11-20T06:00:00Z");
      return null;
    }
    return started;
  }

  private List<Failure> failures(List<String> cells) {
    String type = cell(cells, "type");
    String message = cell(cells, "message");
    String trace = cell(cells, "trace");
    return type == null && message == null && trace == null
        ? List.of()
        : List.of(new Failure(type, message, trace));
  }

  private Map<String, String> properties(List<String> cells) {
    Map<String, String> properties = new LinkedHashMap<>();
    for (int i = 0; i < Math.min(cells.size(), columns.headings().size()); i++) {
      String value = cells.get(i).strip();
      if (!columns.places().containsValue(i)
          && !value.isEmpty()
          && properties.size() < limits.maxProperties()) {
        properties.put(columns.headings().get(i).strip(), cut(value));
      }
    }
    return properties;
  }

  private int line(List<String> cells) {
    String line = cell(cells, "line");
    return line != null && line.matches("[0-9]{1,9}") ? Integer.parseInt(line) : 0;
  }

  private List<String> tags(List<String> cells) {
    List<String> tags = new ArrayList<>();
    String told = cell(cells, "tags");
    for (String word : told == null ? new String[0] : told.split("[,;\\s]+")) {
      if (!word.isBlank() && tags.size() < 100) {
        tags.add(name(word));
      }
    }
    return tags;
  }
}
