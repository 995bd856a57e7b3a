package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.formats.ReportedCase;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Joins cases that name the same test. Files do not say what a repeated case is, so its outcomes
 * must tell:
 *
 * <ul>
 *   <li>nothing passed before it: a retry; it decides
 *   <li>a failure after the one pass: the same try went wrong later, in its teardown; the failure
 *       stands
 *   <li>the same case again in another file: the files are cumulative; it is dropped
 *   <li>anything else: another test of that name, as from a data provider whose parameters are not
 *       in the name; it is numbered. Should an earlier failure have been taken for a retried one,
 *       it stands again: a failure is never hidden
 * </ul>
 */
final class Assembler {
  private final ResultSink sink;
  private final List<Tally> tallies;
  private final SeenTests seen = new SeenTests();
  private final Map<Key128, Integer> repetitions = new HashMap<>();
  private int file;
  private int ordinals;
  private int cases;
  private int repeatedInFile;
  private int droppedInFile;
  private int droppedTries;

  /**
   * @param tallies one for each file, changed as results arrive
   */
  Assembler(ResultSink sink, List<Tally> tallies) {
    this.sink = sink;
    this.tallies = tallies;
  }

  void beginFile(int index) {
    file = index;
    repeatedInFile = 0;
    droppedInFile = 0;
    droppedTries = 0;
  }

  /** What is to be said of the file that ends. */
  List<String> endFile() {
    List<String> problems = new ArrayList<>();
    if (repeatedInFile > 0) {
      problems.add(
          repeatedInFile
              + (repeatedInFile == 1 ? " case has" : " cases have")
              + " the name of another test; they are numbered in order (#2, #3, …)");
    }
    if (droppedInFile > 0) {
      problems.add(
          droppedInFile
              + (droppedInFile == 1 ? " case stands" : " cases stand")
              + " in an earlier file with the same result; counted once");
    }
    if (droppedTries > 0) {
      problems.add(
          droppedTries
              + " tries beyond the first "
              + SeenTests.MAX_ATTEMPTS
              + " of a test are not kept; their outcomes count");
    }
    return problems;
  }

  /** How many cases came so far, joined or not. */
  int seenCases() {
    return cases;
  }

  void add(ReportedCase reported) {
    cases++;
    add(reported, reported.test());
  }

  private void add(ReportedCase reported, TestId id) {
    Attempt last = reported.attempts().get(reported.attempts().size() - 1);
    int print = print(reported, last);
    int slot = seen.find(id);
    if (slot < 0) {
      first(reported, id, last.outcome(), print);
      return;
    }
    if (seen.file(slot) != file
        && seen.outcome(slot) == last.outcome()
        && seen.hasPrint(slot, print)) {
      droppedInFile++;
      return;
    }
    Outcome before = seen.outcome(slot);
    Outcome now = last.outcome();
    boolean retry = before != Outcome.PASSED && !(before == now && now == Outcome.SKIPPED);
    boolean teardown = before == Outcome.PASSED && now.isFailing() && seen.attempts(slot) == 1;
    if (!seen.numbered(slot) && (retry || teardown)) {
      again(reported, slot, now, print);
    } else {
      another(reported, id, slot);
    }
  }

  private static int print(ReportedCase reported, Attempt last) {
    int print = last.outcome().code() * 31 + Long.hashCode(last.durationMicros());
    Instant started = reported.started();
    String message = last.failures().isEmpty() ? null : last.failures().get(0).message();
    print = print * 31 + (started == null ? 0 : started.hashCode());
    print = print * 31 + (message == null ? 0 : message.hashCode());
    return print * 0x9E3779B9 >>> 8;
  }

  private void first(ReportedCase reported, TestId id, Outcome outcome, int print) {
    List<Attempt> attempts = reported.attempts();
    long duration = duration(attempts);
    int ordinal = ordinals++;
    seen.put(id, ordinal, outcome, attempts.size(), file, print);
    Tally tally = tallies.get(file);
    tally.add(outcome, 1);
    if (attempts.size() > 1) {
      tally.addRetried();
    }
    sink.first(
        ordinal,
        new TestResult(
            id,
            reported.kind(),
            outcome,
            duration,
            reported.started(),
            attempts,
            reported.properties(),
            reported.file(),
            reported.line()));
  }

  private void again(ReportedCase reported, int slot, Outcome now, int print) {
    int before = seen.attempts(slot);
    boolean room = before + reported.attempts().size() <= SeenTests.MAX_ATTEMPTS;
    List<Attempt> attempts = room ? reported.attempts() : List.of();
    if (!room) {
      droppedTries++;
    }
    Outcome standing = Retries.standing(seen.outcome(slot), now);
    restate(slot, standing);
    if (before == 1) {
      tallies.get(seen.file(slot)).addRetried();
    }
    seen.attempts(slot, before + attempts.size());
    seen.print(slot, print);
    sink.again(
        new ResultSink.Again(
            seen.ordinal(slot), reported.test(), before, attempts, standing, duration(attempts)));
  }

  private void restate(int slot, Outcome now) {
    Tally tally = tallies.get(seen.file(slot));
    tally.add(seen.outcome(slot), -1);
    tally.add(now, 1);
    seen.outcome(slot, now);
  }

  private void another(ReportedCase reported, TestId id, int slot) {
    if (!seen.numbered(slot)) {
      seen.number(slot);
      if (seen.outcome(slot) == Outcome.PASSED && seen.attempts(slot) > 1) {
        restate(slot, Outcome.FAILED);
        sink.again(
            new ResultSink.Again(
                seen.ordinal(slot),
                id,
                seen.attempts(slot),
                List.of(),
                Outcome.FAILED,
                TestResult.NO_DURATION));
      }
    }
    repeatedInFile++;
    int number = repetitions.merge(id.key(), 2, (old, two) -> old + 1);
    add(reported, id.repetition(number));
  }

  private static long duration(List<Attempt> attempts) {
    long sum = TestResult.NO_DURATION;
    for (Attempt attempt : attempts) {
      sum = TestResult.plus(sum, attempt.durationMicros());
    }
    return sum;
  }
}
