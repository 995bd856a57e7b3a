package org.vinecellar.service.runs;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.traces.Comparison;
import org.vinecellar.core.triage.code.TraceLine;
import org.vinecellar.core.triage.code.TraceLines;
import org.vinecellar.service.edits.NoteBody;
import org.vinecellar.service.edits.OverrulingBody;

/** All there is of one result. */
@Schema(name = "ResultDetail")
public record DetailBody(
    ResultBody result,
    @Schema(nullable = true) @Nullable Instant startedAt,
    @Schema(nullable = true) @Nullable String file,
    @Schema(nullable = true) @Nullable Integer line,
    String part,
    Map<String, String> properties,
    List<String> tags,
    NoteBody note,
    @Schema(nullable = true) @Nullable OverrulingBody overruling,
    @Schema(nullable = true) @Nullable ResultBody stoppedBy,
    List<AttemptBody> attempts,
    List<ElsewhereBody> elsewhere,
    List<EarlierBody> before) {

  /** One try. */
  @Schema(name = "Attempt")
  public record AttemptBody(
      String outcome,
      @Schema(nullable = true) @Nullable Double durationMs,
      List<FailureBody> failures,
      @Schema(nullable = true) @Nullable TextBody stdout,
      @Schema(nullable = true) @Nullable TextBody stderr,
      List<StepBody> steps,
      List<StepBody.LogBody> logs,
      List<AttachmentBody> attachments) {
    static AttemptBody of(ResultDetail.Try one, boolean full) {
      Attempt a = one.attempt();
      return new AttemptBody(
          a.outcome().word(),
          a.durationMicros() == TestResult.NO_DURATION ? null : a.durationMicros() / 1000.0,
          a.failures().stream().map(failure -> FailureBody.of(failure, full)).toList(),
          TextBody.of(a.stdout(), full),
          TextBody.of(a.stderr(), full),
          a.steps().stream().map(StepBody::of).toList(),
          a.logs().stream().map(StepBody.LogBody::of).toList(),
          one.attachments().stream().map(AttachmentBody::of).toList());
    }
  }

  /** What went wrong; the trace as runs of lines of one kind. */
  @Schema(name = "Failure")
  public record FailureBody(
      @Schema(nullable = true) @Nullable String type,
      @Schema(nullable = true) @Nullable TextBody message,
      @Schema(nullable = true) @Nullable ComparisonBody comparison,
      @Schema(nullable = true) @Nullable TextBody trace,
      List<TraceBlock> traceBlocks) {
    static FailureBody of(Failure f, boolean full) {
      TextBody trace = TextBody.of(f.trace(), full);
      return new FailureBody(
          f.type(),
          TextBody.of(f.message(), full),
          ComparisonBody.of(f),
          trace,
          trace == null ? List.of() : TraceBlock.of(trace.text()));
    }
  }

  /** What an assertion wanted and what it got. */
  @Schema(name = "Comparison")
  public record ComparisonBody(String expected, String actual) {
    static @Nullable ComparisonBody of(Failure failure) {
      String message = failure.message();
      String trace = failure.trace();
      Comparison found = message == null ? null : Comparison.in(message);
      if (found == null && trace != null) {
        found = Comparison.in(trace);
      }
      return found == null ? null : new ComparisonBody(found.expected(), found.actual());
    }
  }

  /** Lines of a trace that are of one kind: text, own or framework. */
  @Schema(name = "TraceBlock")
  public record TraceBlock(
      @Schema(enumeration = {"text", "own", "framework"}) String kind, List<String> lines) {
    static List<TraceBlock> of(String trace) {
      List<TraceBlock> blocks = new ArrayList<>();
      TraceLine.@Nullable Kind kind = null;
      List<String> lines = new ArrayList<>();
      for (TraceLine line : TraceLines.of(trace)) {
        if (line.kind() != kind) {
          add(blocks, kind, lines);
          lines = new ArrayList<>();
          kind = line.kind();
        }
        lines.add(line.text());
      }
      add(blocks, kind, lines);
      return blocks;
    }

    private static void add(
        List<TraceBlock> blocks, TraceLine.@Nullable Kind kind, List<String> lines) {
      if (kind != null) {
        blocks.add(new TraceBlock(kind.name().toLowerCase(Locale.ROOT), lines));
      }
    }
  }

  /** The same test in another variant, or in another part that nothing calls a retry. */
  @Schema(name = "ResultElsewhere")
  public record ElsewhereBody(
      String result,
      Map<String, String> variant,
      String part,
      @Schema(enumeration = {"passed", "failed", "errored", "skipped", "not reached"})
          String outcome) {
    static ElsewhereBody of(ResultDetail.Elsewhere e) {
      return new ElsewhereBody(
          e.result().toString(), e.variant(), e.partName(), e.outcome().word());
    }
  }

  /** The test in an earlier run of the stream. */
  @Schema(name = "EarlierResult")
  public record EarlierBody(int run, String result, String outcome, boolean retried) {
    static EarlierBody of(ResultDetail.Earlier e) {
      return new EarlierBody(e.run(), e.result().toString(), e.outcome().word(), e.retried());
    }
  }

  static DetailBody of(ResultDetail d, boolean full) {
    return new DetailBody(
        ResultBody.of(d.row()),
        d.startedAt(),
        d.file(),
        d.line(),
        d.partName(),
        new TreeMap<>(d.properties()),
        d.tags(),
        NoteBody.of(d.note().text()),
        d.overruling() == null ? null : OverrulingBody.of(d.overruling()),
        d.stoppedBy() == null ? null : ResultBody.of(d.stoppedBy()),
        d.tries().stream().map(one -> AttemptBody.of(one, full)).toList(),
        d.elsewhere().stream().map(ElsewhereBody::of).toList(),
        d.before().stream().map(EarlierBody::of).toList());
  }
}
