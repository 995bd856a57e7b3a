package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
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
 *   <li>of a suite that a file of another format told of, where builds leave both behind: dropped
 *   <li>the same case again in another file: the files are cumulative; it is dropped
 *   <li>anything else: another test of that name, as from a data provider whose parameters are not
 *       in the name; it is numbered. Should an earlier failure have been taken for a retried one,
 *       it stands again: a failure is never hidden
 * </ul>
 */
final class Assembler {
  private static final int MAX_SUITES = 20_000;

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
  private int retoldInFile;

  /**
   * Which format told of a suite first, by its own name: what is around a class differs between
   * formats. Of further suites nobody asks.
   */
  private final Map<String, String> toldBy = new HashMap<>();

  private String format = "";
  private @Nullable SuitePath lastSuite;
  private boolean lastRetold;

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
    retoldInFile = 0;
    lastSuite = null;
  }

  /** The format of the file that has begun. */
  void format(String name) {
    format = name;
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
    if (retoldInFile > 0) {
      problems.add(
          retoldInFile
              + (retoldInFile == 1 ? " case is" : " cases are")
              + " of suites that another file told of in another format; counted there");
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

  /**
   * Takes what one case says of a test.
   *
   * @param result of that case alone
   */
  void add(TestResult result) {
    cases++;
    if (retold(result.test().suite())) {
      retoldInFile++;
    } else {
      join(result);
    }
  }

  private boolean retold(SuitePath suite) {
    if (suite != lastSuite) {
      lastSuite = suite;
      lastRetold = false;
      for (SuitePath at = suite; at != null && at.depth() > 0; at = at.parent()) {
        String first = toldBy.get(at.name());
        lastRetold |= first != null && Formats.tellTheSame(first, format);
      }
      if (toldBy.size() < MAX_SUITES) {
        toldBy.putIfAbsent(suite.name(), format);
      }
    }
    return lastRetold;
  }

  private void join(TestResult result) {
    int print = print(result);
    int slot = seen.find(result.test());
    if (slot < 0) {
      first(result, print);
      return;
    }
    Outcome before = seen.outcome(slot);
    Outcome now = result.outcome();
    if (seen.file(slot) != file && before == now && seen.hasPrint(slot, print)) {
      droppedInFile++;
      return;
    }
    boolean retry = before != Outcome.PASSED && !(before == now && now == Outcome.SKIPPED);
    boolean teardown = before == Outcome.PASSED && now.isFailing() && seen.attempts(slot) == 1;
    if (!seen.numbered(slot) && (retry || teardown)) {
      again(result, slot, print);
    } else {
      another(result, slot);
    }
  }

  private static int print(TestResult result) {
    Attempt last = result.attempts().get(result.attempts().size() - 1);
    int print = last.outcome().code() * 31 + Long.hashCode(last.durationMicros());
    Instant started = result.started();
    String message = last.failures().isEmpty() ? null : last.failures().get(0).message();
    print = print * 31 + (started == null ? 0 : started.hashCode());
    print = print * 31 + (message == null ? 0 : message.hashCode());
    return print * 0x9E3779B9 >>> 8;
  }

  private void first(TestResult result, int print) {
    int ordinal = ordinals++;
    int attempts = result.attempts().size();
    seen.put(result.test(), ordinal, result.outcome(), attempts, file, print);
    Tally tally = tallies.get(file);
    tally.add(result.kind(), result.outcome(), 1);
    if (attempts > 1) {
      tally.addRetried(result.kind());
    }
    sink.first(ordinal, result);
  }

  private void again(TestResult result, int slot, int print) {
    int before = seen.attempts(slot);
    boolean room = before + result.attempts().size() <= SeenTests.MAX_ATTEMPTS;
    List<Attempt> attempts = room ? result.attempts() : List.of();
    if (!room) {
      droppedTries++;
    }
    Outcome standing = Retries.standing(seen.outcome(slot), result.outcome());
    restate(slot, result.kind(), standing);
    if (before == 1) {
      tallies.get(seen.file(slot)).addRetried(result.kind());
    }
    seen.attempts(slot, before + attempts.size());
    seen.print(slot, print);
    sink.again(
        new ResultSink.Again(
            seen.ordinal(slot),
            result.test(),
            before,
            attempts,
            standing,
            room ? result.durationMicros() : TestResult.NO_DURATION));
  }

  private void restate(int slot, ResultKind kind, Outcome now) {
    Tally tally = tallies.get(seen.file(slot));
    tally.add(kind, seen.outcome(slot), -1);
    tally.add(kind, now, 1);
    seen.outcome(slot, now);
  }

  private void another(TestResult result, int slot) {
    TestId id = result.test();
    if (!seen.numbered(slot)) {
      seen.number(slot);
      if (seen.outcome(slot) == Outcome.PASSED && seen.attempts(slot) > 1) {
        restate(slot, result.kind(), Outcome.FAILED);
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
    join(result.ofTest(id.repetition(number)));
  }
}
