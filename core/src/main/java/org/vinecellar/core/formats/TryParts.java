package org.vinecellar.core.formats;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;

/** Gathers what one try of a test holds, and keeps it within bounds. */
public final class TryParts {
  private static final int MAX_STEPS = 5_000;
  private static final int MAX_LOGS = 20_000;
  private static final int MAX_ATTACHMENTS = 200;
  private static final long MAX_BYTES = 128L << 20;

  private final Problems problems;
  private final List<Step> steps = new ArrayList<>();
  private final List<LogLine> logs = new ArrayList<>();
  private final List<Attachment> attachments = new ArrayList<>();
  private int stepCount;
  private int logCount;
  private long bytes;

  /** Parts whose surplus is told to those problems. */
  public TryParts(Problems problems) {
    this.problems = problems;
  }

  /** Whether one more step, at any depth, may be kept. */
  public boolean roomForStep() {
    if (stepCount++ == MAX_STEPS) {
      problems.add("a test has more than " + MAX_STEPS + " steps; the first of them are kept");
    }
    return stepCount <= MAX_STEPS;
  }

  /** Whether one more log line may be kept. */
  public boolean roomForLog() {
    if (logCount++ == MAX_LOGS) {
      problems.add("a test has more than " + MAX_LOGS + " log lines; the first of them are kept");
    }
    return logCount <= MAX_LOGS;
  }

  /** An outermost step. */
  public void step(Step step) {
    steps.add(step);
  }

  /** A line outside any step. */
  public void log(LogLine line) {
    if (roomForLog()) {
      logs.add(line);
    }
  }

  /**
   * Takes an attachment.
   *
   * @return its place in the list; -1 when there is no room for it
   */
  public int attach(Attachment attachment) {
    Attachment.Content content = attachment.content();
    bytes += content == null ? 0 : content.bytes().length;
    if (attachments.size() == MAX_ATTACHMENTS || bytes > MAX_BYTES) {
      problems.add(
          "a test has more than "
              + MAX_ATTACHMENTS
              + " attachments, or more than "
              + (MAX_BYTES >> 20)
              + " MB of them; “"
              + attachment.name()
              + "” is not kept");
      return -1;
    }
    attachments.add(attachment);
    return attachments.size() - 1;
  }

  /** How many attachments there are so far. */
  public int attachmentCount() {
    return attachments.size();
  }

  /** The try that all of it belongs to. */
  public Attempt attempt(
      Outcome outcome,
      long durationMicros,
      List<Failure> failures,
      @Nullable String stdout,
      @Nullable String stderr) {
    return new Attempt(outcome, durationMicros, failures, stdout, stderr, steps, logs, attachments);
  }
}
