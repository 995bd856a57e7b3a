package org.vinecellar.core.formats.junitxml;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Surefire writes a try of TestNG that failed and was made again as skipped, with the message of
 * its failure. What was skipped therefore waits for a case of the same test: when one comes that
 * ran, the skipped ones were its tries before.
 */
final class SkippedTries {
  private static final int MAX_WAITING = 10_000;
  private static final long MAX_CHARS = 4_000_000;

  private final CaseHandler handler;
  private final Map<TestId, List<Waiting>> waiting = new LinkedHashMap<>();
  private int count;
  private long chars;

  private record Waiting(TestResult result, Repeat repeat) {}

  SkippedTries(CaseHandler handler) {
    this.handler = handler;
  }

  void add(TestResult result, Repeat repeat) {
    boolean waits =
        result.outcome() == Outcome.SKIPPED
            && result.kind() == ResultKind.TEST
            && result.attempts().size() == 1
            && count < MAX_WAITING
            && chars < MAX_CHARS;
    if (waits) {
      count++;
      chars += result.attempts().get(0).textChars();
      waiting
          .computeIfAbsent(result.test(), test -> new ArrayList<>())
          .add(new Waiting(result, repeat));
      return;
    }
    boolean ran = result.outcome() == Outcome.PASSED || result.outcome().isFailing();
    List<Waiting> before = ran ? waiting.remove(result.test()) : null;
    handler.onCase(before == null ? result : after(before, result), repeat);
  }

  private TestResult after(List<Waiting> before, TestResult result) {
    count -= before.size();
    List<Attempt> all = new ArrayList<>();
    for (Waiting one : before) {
      Attempt skipped = one.result.attempts().get(0);
      chars -= skipped.textChars();
      all.add(
          new Attempt(
              Outcome.FAILED,
              skipped.durationMicros(),
              skipped.failures(),
              skipped.stdout(),
              skipped.stderr()));
    }
    all.addAll(result.attempts());
    return result.with(all);
  }

  /** The suite has ended, or the file has: what still waits was skipped. */
  void end() {
    waiting.values().forEach(all -> all.forEach(one -> handler.onCase(one.result, one.repeat)));
    waiting.clear();
    count = 0;
    chars = 0;
  }
}
