package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.Job;

/**
 * What a sender says of an upload, as the fields of a form, in the words of the API: read by the
 * service, and by the client before it sends them.
 */
public record UploadForm(Map<String, List<String>> fields) {
  /** Fields that come once at most. */
  public static final Set<String> ONCE =
      Set.of(
          "stream",
          "run",
          "part",
          "attempt",
          "commit",
          "branch",
          "main_branch",
          "build_url",
          "expect_parts",
          "at",
          "made",
          "live",
          "bundle_title",
          "bundle_index",
          "allow_empty",
          "again",
          "job_status",
          "job_command",
          "job_exit_code",
          "job_signal",
          "job_ms");

  /** Fields that may come more than once. */
  public static final Set<String> OFTEN = Set.of("label", "variant", "variant_in", "column");

  /** Copies the fields. */
  public UploadForm {
    fields = Map.copyOf(fields);
  }

  private List<String> values(String name) {
    return fields.getOrDefault(name, List.of());
  }

  private @Nullable String word(String name) {
    List<String> values = values(name);
    return values.isEmpty() ? null : values.get(0);
  }

  /**
   * What the sender says of the upload.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public UploadRequest request(int projectId) {
    String stream = word("stream");
    return new UploadRequest(
        new UploadRequest.Target(
            projectId,
            stream == null ? "" : stream,
            word("run"),
            new UploadRequest.PartKey(
                word("part"),
                Variant.of(pairs("variant")),
                PathVariants.of(values("variant_in")),
                number("attempt"))),
        new Origin(word("commit"), word("branch"), word("build_url"), word("main_branch")),
        pairs("label"),
        number("expect_parts"),
        new UploadRequest.When(time(word("at")), time(word("made"))),
        livePart(word("live")),
        CsvColumns.of(values("column")),
        new UploadRequest.Allowed("true".equals(word("allow_empty")), "true".equals(word("again"))),
        job());
  }

  private @Nullable Job job() {
    String status = word("job_status");
    Integer millis = number("job_ms");
    return status == null
        ? null
        : new Job(
            Job.Status.of(status),
            word("job_command"),
            number("job_exit_code"),
            word("job_signal"),
            millis == null ? null : millis.longValue());
  }

  private Map<String, String> pairs(String field) {
    Map<String, String> pairs = new LinkedHashMap<>();
    for (String pair : values(field)) {
      int equals = pair.indexOf('=');
      if (equals < 1) {
        throw invalid("the " + field + " “" + pair + "” is not of the form key=value");
      }
      String key = pair.substring(0, equals);
      String value = pair.substring(equals + 1);
      String before = pairs.putIfAbsent(key, value);
      if (before != null && !before.equals(value)) {
        throw invalid(
            "the "
                + field
                + " “"
                + key
                + "” is given twice, as “"
                + before
                + "” and as “"
                + value
                + "”");
      }
    }
    return pairs;
  }

  private @Nullable Integer number(String field) {
    String text = word(field);
    if (text == null) {
      return null;
    }
    if (!text.matches("[0-9]{1,9}")) {
      throw invalid(field + " is “" + text + "”, which is not a number");
    }
    return Integer.valueOf(text);
  }

  /** The number of the part in what the portal called a live part. */
  private static @Nullable Integer livePart(@Nullable String live) {
    if (live == null) {
      return null;
    }
    if (!live.matches("[0-9]{1,15}-[0-9]{1,7}")) {
      throw invalid("live is “" + live + "”, which names no live part");
    }
    return Integer.valueOf(live.substring(live.indexOf('-') + 1));
  }

  private static @Nullable Instant time(@Nullable String text) {
    Instant at = text == null ? null : Timestamps.parse(text);
    if (text != null && at == null) {
      throw invalid(
          "at is “"
              + text
              + "”, which is no time like 2026-11-20T06:00:00Z, or none at which tests can have run");
    }
    return at;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
