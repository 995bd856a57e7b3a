package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.SuiteHeader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Joins cases that name the same test. What a repeated case is, its reader says ({@link Repeat}):
 *
 * <ul>
 *   <li>a retry: one more attempt, which decides
 *   <li>more of the same try, as of its teardown: it is added to that
 *   <li>another test of that name, or one more invocation, as from a data provider whose parameters
 *       are not in the name: it is numbered, and counts
 *   <li>where the file does not say, the header of its suite may, by what it counts; and where that
 *       does not either, each counts: a failure is never hidden behind a pass
 *   <li>of a suite that a file of another format told of, where builds leave both behind: dropped
 *   <li>the same case again in another file: the files are cumulative; it is dropped
 *   <li>what was skipped, or not reached, and ran later: the later counts
 * </ul>
 */
final class Assembler {
  private static final int MAX_SUITES = 20_000;
  private static final int MAX_HELD = 10_000;

  /** Text of the cases that wait for the header of their suite; more of it is not waited with. */
  private static final int MAX_HELD_CHARS = 4_000_000;

  /** Cases that are taken for the same try; nothing tells of its teardown so often. */
  private static final int MAX_JOINED = 10;

  private final ResultSink sink;
  private final List<Tally> tallies;
  private final SeenTests seen = new SeenTests();
  private final Map<Key128, Integer> repetitions = new HashMap<>();
  private int file;
  private int ordinals;
  private int cases;
  private boolean ofClass;
  private int droppedInFile;
  private int droppedTries;
  private int retoldInFile;

  /**
   * Which format told of a suite first, by its own name: what is around a class differs between
   * formats. Of further suites nobody asks.
   */
  private final Map<String, String> toldBy = new HashMap<>();

  /** Cases of which the header of their suite may yet tell what they are. */
  private final List<Held> held = new ArrayList<>();

  private long heldChars;

  /** The last case, to which the next one may yet belong. */
  private @Nullable TestResult last;

  private int lastJoined;
  private Repeat lastRepeat = Repeat.UNTOLD;
  private int untoldInFile;
  private final List<String> directories = new ArrayList<>();

  /** Which number a test has in a directory, when another directory has it too. */
  private final Map<Apart, Integer> apart = new HashMap<>();

  private int apartInFile;
  private String format = "";
  private @Nullable SuitePath lastSuite;
  private boolean lastRetold;

  /** A test in a directory. */
  private record Apart(Key128 test, String directory) {}

  /**
   * A case that has the name of another one.
   *
   * @param number which case of the upload it was
   */
  private record Held(TestResult result, int number) {}

  /**
   * @param tallies one for each file, changed as results arrive
   */
  Assembler(ResultSink sink, List<Tally> tallies) {
    this.sink = sink;
    this.tallies = tallies;
  }

  /**
   * @param name as it was sent, with its directory
   */
  void beginFile(int index, String name) {
    file = index;
    String path = name.replace('\\', '/');
    ofClass = path.startsWith("TEST-", path.lastIndexOf('/') + 1);
    directories.add(path.substring(0, path.lastIndexOf('/') + 1));
    untoldInFile = 0;
    apartInFile = 0;
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
    flush();
    settle(new SuiteHeader(-1, -1, cases, 0));
    List<String> problems = new ArrayList<>();
    // Where the file tells that they are tests of their own, that is as it should be.
    if (untoldInFile > 0) {
      problems.add(
          untoldInFile
              + (untoldInFile == 1 ? " case has" : " cases have")
              + " the name of another test, and nothing tells whether it was tried again; each"
              + " counts, numbered in order (#2, #3, …)");
    }
    if (apartInFile > 0) {
      problems.add(
          apartInFile
              + (apartInFile == 1 ? " test stands" : " tests stand")
              + " in another directory too; each counts, numbered in order (#2, #3, …). If the"
              + " directories are variants, say so with a key in their place, as in"
              + " 'build/{jdk}/*.xml'");
    }
    if (droppedInFile > 0 && !ofClass) {
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
  void add(TestResult result, Repeat repeat) {
    cases++;
    TestResult before = last;
    if (repeat == Repeat.SAME_TRY
        && before != null
        && lastJoined < MAX_JOINED
        && before.test().key().equals(result.test().key())) {
      lastJoined++;
      last = SameTry.joined(before, result);
      return;
    }
    flush();
    if (retold(result.test().suite())) {
      retoldInFile++;
    } else {
      last = result;
      lastJoined = 1;
      lastRepeat = repeat;
    }
  }

  /** A result that stands in no file, after the last of them. */
  void beside(TestResult result, Tally tally) {
    tally.add(result.kind(), result.outcome(), 1);
    sink.first(ordinals++, result);
  }

  private void flush() {
    TestResult result = last;
    if (result != null) {
      last = null;
      join(result, lastRepeat);
    }
  }

  /** What the header of the suite that ends tells of the cases in it. */
  void header(SuiteHeader header) {
    flush();
    if (!held.isEmpty()) {
      settle(header);
    }
  }

  private void settle(SuiteHeader header) {
    int from = held.size();
    while (from > 0 && held.get(from - 1).number > cases - header.cases()) {
      from--;
    }
    List<Held> inside = List.copyOf(held.subList(from, held.size()));
    held.subList(from, held.size()).clear();
    heldChars = held.isEmpty() ? 0 : heldChars;
    Repeat meaning = header.meaning(inside.size());
    for (Held one : inside) {
      TestResult result = one.result;
      int slot = seen.find(result.test());
      if (meaning == Repeat.UNTOLD) {
        untold(slot, result);
      }
      if (meaning == Repeat.RETRY) {
        again(result, slot, print(result));
      } else {
        another(result);
      }
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

  private void join(TestResult result, Repeat repeat) {
    int print = print(result);
    int slot = seen.find(result.test());
    if (slot < 0) {
      first(result, print);
      return;
    }
    Outcome before = seen.outcome(slot);
    if (isApart(slot)) {
      TestId id = result.test();
      int number =
          apart.computeIfAbsent(
              new Apart(id.key(), directories.get(file)),
              unseen -> {
                untoldApart(slot, result);
                return nextOf(id);
              });
      join(result.ofTest(id.repetition(number)), repeat);
      return;
    }
    boolean elsewhere = seen.file(slot) != file;
    if (elsewhere && before == result.outcome() && seen.hasPrint(slot, print)) {
      droppedInFile++;
      return;
    }
    boolean ranNow = !ran(before) && (ran(result.outcome()) || before != result.outcome());
    boolean retry =
        repeat == Repeat.RETRY
            || repeat == Repeat.SAME_TRY
            || (repeat == Repeat.RETRY_BESIDE && isBeside(slot));
    if (retry
        || result.kind() == ResultKind.SETUP
        || (ranNow && (elsewhere || repeat != Repeat.OTHER))) {
      again(result, slot, print);
    } else if (repeat == Repeat.OTHER || elsewhere || !canWait(result)) {
      if (repeat != Repeat.OTHER) {
        untold(slot, result);
      }
      another(result);
    } else {
      held.add(new Held(result, cases));
    }
  }

  /**
   * Whether what was seen stands in a file of another directory, neither around this one's nor in
   * it: another machine, version or module told of it, and it is not the same test.
   */
  private boolean isApart(int slot) {
    int other = seen.file(slot);
    if (other == file) {
      return false;
    }
    String here = directories.get(file);
    String there = directories.get(other);
    return !here.startsWith(there) && !there.startsWith(here);
  }

  /** Whether there is room for a case to wait; then it is taken. */
  private boolean canWait(TestResult result) {
    heldChars += result.attempts().stream().mapToLong(Attempt::textChars).sum();
    return held.size() < MAX_HELD && heldChars <= MAX_HELD_CHARS;
  }

  /** Whether what was seen stands in another file of the same directory, and did not pass there. */
  private boolean isBeside(int slot) {
    int other = seen.file(slot);
    return other != file
        && directories.get(other).equals(directories.get(file))
        && seen.outcome(slot) != Outcome.PASSED;
  }

  private void untoldApart(int slot, TestResult result) {
    boolean matters = result.outcome().isFailing() || seen.outcome(slot).isFailing();
    apartInFile += matters ? 1 : 0;
  }

  /** Where all of them passed it does not matter. */
  private void untold(int slot, TestResult result) {
    boolean matters = result.outcome().isFailing() || seen.outcome(slot).isFailing();
    untoldInFile += matters ? 1 : 0;
  }

  private static boolean ran(Outcome outcome) {
    return outcome == Outcome.PASSED || outcome.isFailing();
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

  private void another(TestResult result) {
    TestId id = result.test();
    join(result.ofTest(id.repetition(nextOf(id))), Repeat.OTHER);
  }

  private int nextOf(TestId id) {
    return repetitions.merge(id.key(), 2, (old, two) -> old + 1);
  }
}
