package org.vinecellar.client.command;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.PipelineEnvironment;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.core.ingest.PartTimes;
import org.vinecellar.core.ingest.UploadForm;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.Variant;
import picocli.CommandLine.Option;

/**
 * What is said of an upload. An option wins over an environment variable of ours, that over {@code
 * vine.yaml}, and that over what the pipeline server tells.
 */
final class UploadSettings {
  @Option(
      names = "--stream",
      paramLabel = "NAME",
      description = "The stream that the run belongs to, e.g. booking-api/nightly (VINE_STREAM).")
  private @Nullable String stream;

  @Option(
      names = "--run",
      paramLabel = "KEY",
      description = "What all parts of one run share, e.g. the build's number (VINE_RUN).")
  private @Nullable String run;

  @Option(
      names = "--expect-parts",
      paramLabel = "N",
      description = "Close the run when it has so many parts; else it closes after a silence.")
  private @Nullable Integer expectParts;

  @Option(
      names = "--part",
      paramLabel = "NAME",
      description = "The name of this part of the run (VINE_PART).")
  private @Nullable String part;

  @Option(
      names = "--variant",
      paramLabel = "KEY=VALUE",
      description =
          "What tells this part's tests apart from equal ones of other parts, e.g. browser=webkit;"
              + " can be given again (VINE_VARIANT, parted by commas).")
  private List<String> variant = List.of();

  @Option(
      names = "--attempt",
      paramLabel = "N",
      description =
          "Which attempt of the job this is, from 1: its tests are tries of those of the attempts"
              + " before, in parts of the same name and variant.")
  private @Nullable Integer attempt;

  @Option(names = "--commit", paramLabel = "REV", description = "The revision that was tested.")
  private @Nullable String commit;

  @Option(names = "--branch", paramLabel = "NAME", description = "The branch it is on.")
  private @Nullable String branch;

  @Option(names = "--build-url", paramLabel = "URL", description = "The page of the job.")
  private @Nullable String buildUrl;

  @Option(
      names = "--label",
      paramLabel = "KEY=VALUE",
      description = "A label of the run; can be given again.")
  private List<String> labels = List.of();

  @Option(
      names = "--at",
      paramLabel = "TIME",
      description = "When it was, for results of the past, e.g. 2026-11-20T06:00:00Z.")
  private @Nullable String at;

  @Option(
      names = "--column",
      paramLabel = "FIELD=HEADING",
      description = "What a column of a CSV file holds; can be given again.")
  private List<String> columns = List.of();

  @Option(
      names = "--allow-empty",
      description = "It is fine when no file matches, or no test is in them.")
  private boolean allowEmpty;

  @Option(
      names = "--again",
      description = "It is fine when another run of the stream has these very files.")
  private boolean again;

  boolean allowEmpty() {
    return allowEmpty;
  }

  /**
   * The form's fields.
   *
   * @param now a time that is told lies before it
   */
  List<Map.Entry<String, String>> fields(
      Map<String, String> environment, SettingsFile file, Instant now) {
    PipelineEnvironment pipeline = new PipelineEnvironment(environment, file);
    List<Map.Entry<String, String>> fields = new ArrayList<>();
    fields.add(Map.entry("stream", stream(environment, file)));
    add(fields, "run", told(run, environment.get("VINE_RUN")));
    add(fields, "part", told(part, environment.get("VINE_PART"), file.word("part")));
    add(
        fields,
        "attempt",
        told(attempt == null ? null : attempt.toString(), count(pipeline.value("attempt"))));
    add(
        fields,
        "expect_parts",
        told(expectParts == null ? null : expectParts.toString(), file.word("expect-parts")));
    add(fields, "commit", told(commit, pipeline.value("commit")));
    add(fields, "branch", told(branch, file.word("branch"), pipeline.value("branch")));
    add(fields, "main_branch", told(file.word("main-branch"), pipeline.value("main-branch")));
    add(fields, "build_url", told(buildUrl, web(pipeline.value("build-url"))));
    add(fields, "at", at);
    labels(pipeline, file).forEach(label -> fields.add(Map.entry("label", label)));
    List<String> mapped = columns.isEmpty() ? file.list("column") : columns;
    variant(environment).forEach(word -> fields.add(Map.entry("variant", word)));
    mapped.forEach(column -> fields.add(Map.entry("column", column)));
    if (allowEmpty) {
      fields.add(Map.entry("allow_empty", "true"));
    }
    if (again) {
      fields.add(Map.entry("again", "true"));
    }
    check(fields, now);
    return fields;
  }

  /**
   * Adds what the patterns of files tell of variants.
   *
   * @throws CommandException {@code WRONG_CALL} when a key in them is none
   */
  void variantsIn(List<String> patterns, List<Map.Entry<String, String>> fields, Instant now) {
    List<String> telling = FilePatterns.variants(patterns);
    telling.forEach(pattern -> fields.add(Map.entry("variant_in", pattern)));
    if (!telling.isEmpty()) {
      check(fields, now);
    }
  }

  /** What the portal would refuse is told before anything is sent, or run. */
  private static void check(List<Map.Entry<String, String>> fields, Instant now) {
    Map<String, List<String>> form = new LinkedHashMap<>();
    fields.forEach(
        field ->
            form.computeIfAbsent(field.getKey(), name -> new ArrayList<>()).add(field.getValue()));
    try {
      Instant at = new UploadForm(form).request(0).when().at();
      if (at != null && !PartTimes.isPossible(at, now)) {
        throw new CommandException(
            ExitCode.WRONG_CALL, "--at is " + at + ", which is in the future; nothing was sent");
      }
    } catch (CellarException e) {
      throw new CommandException(ExitCode.WRONG_CALL, e.text());
    }
  }

  String stream(Map<String, String> environment, SettingsFile file) {
    String name = told(stream, environment.get("VINE_STREAM"), file.word("stream"));
    if (name == null || name.isBlank()) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "no stream is named; give --stream, as in --stream booking-api/nightly, or write it into"
              + " vine.yaml");
    }
    return name;
  }

  /** The words of the variant, once what is said of the part is known to be right. */
  private List<String> variant(Map<String, String> environment) {
    String told = first(environment.get("VINE_VARIANT"));
    List<String> words =
        !variant.isEmpty()
            ? variant
            : told == null ? List.of() : List.of(told.strip().split("\\s*,\\s*"));
    Map<String, String> pairs = new LinkedHashMap<>();
    for (String word : words) {
      int equals = word.indexOf('=');
      if (equals < 1) {
        throw new CommandException(
            ExitCode.WRONG_CALL,
            "the variant “" + word + "” is not of the form key=value, as in browser=webkit");
      }
      pairs.put(word.substring(0, equals), word.substring(equals + 1));
    }
    try {
      var unused = new UploadRequest.PartKey(part, Variant.of(pairs), attempt);
    } catch (CellarException e) {
      throw new CommandException(ExitCode.WRONG_CALL, e.text());
    }
    return words;
  }

  /** The run key; null when there is none. */
  @Nullable String run(Map<String, String> environment) {
    return told(run, environment.get("VINE_RUN"));
  }

  private List<String> labels(PipelineEnvironment pipeline, SettingsFile file) {
    Map<String, String> all = new LinkedHashMap<>();
    for (String name : List.of("change", "trigger", "by")) {
      String value = pipeline.value(name);
      if (value != null && value.length() <= 200) {
        all.put(name, value);
      }
    }
    all.putAll(file.labels());
    List<String> words = new ArrayList<>();
    all.forEach(
        (key, value) -> {
          if (labels.stream().noneMatch(label -> label.startsWith(key + "="))) {
            words.add(key + "=" + value);
          }
        });
    words.addAll(labels);
    return words;
  }

  /** What a server calls an attempt is none unless it counts from 1. */
  private static @Nullable String count(@Nullable String number) {
    return number != null && number.matches("[1-9][0-9]{0,2}") ? number : null;
  }

  /** What a server calls a page is none unless a browser can open it. */
  private static @Nullable String web(@Nullable String url) {
    return url != null && url.matches("https?://\\S{1,1990}") ? url : null;
  }

  /**
   * What an option says, even if it is blank, as from a variable that is not set: then it must not
   * mean something else; without the option the first that is set.
   */
  static @Nullable String told(@Nullable String option, @Nullable String... others) {
    return option != null ? option : first(others);
  }

  static @Nullable String first(@Nullable String... values) {
    for (String value : values) {
      if (value != null && !value.isBlank()) {
        return value;
      }
    }
    return null;
  }

  private static void add(
      List<Map.Entry<String, String>> fields, String name, @Nullable String value) {
    if (value != null) {
      fields.add(Map.entry(name, value));
    }
  }
}
