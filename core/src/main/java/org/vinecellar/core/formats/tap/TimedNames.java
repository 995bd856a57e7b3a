package org.vinecellar.core.formats.tap;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.PassingOn;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Takes the time out of names that end with how long the test took ({@code bats -T}: “boards in
 * 12ms”), which would make another test of it each night. A name may well speak of a time itself:
 * only where the first points all end so, with different times, is it taken for that.
 */
final class TimedNames extends PassingOn {
  private static final Pattern TIMED = Pattern.compile("^(\\S.*) in ([0-9]{1,9})(ms|sec)$");
  private static final int ENOUGH = 8;

  private final List<Waiting> waiting = new ArrayList<>();
  private final Set<String> times = new HashSet<>();
  private @Nullable Boolean timed;

  private record Waiting(TestResult result, Repeat repeat) {}

  TimedNames(CaseHandler handler) {
    super(handler);
  }

  @Override
  public void onCase(TestResult result, Repeat repeat) {
    if (timed == null) {
      waiting.add(new Waiting(result, repeat));
      look(result);
    } else {
      handler.onCase(timed ? withoutTime(result) : result, repeat);
    }
  }

  private void look(TestResult result) {
    Matcher matcher = TIMED.matcher(result.test().displayName());
    boolean timedName = matcher.find();
    if (timedName) {
      times.add(matcher.group(2) + matcher.group(3));
    }
    // Of a test that failed or was left out the time is not always told.
    boolean plain = !timedName && result.outcome() == Outcome.PASSED;
    if (plain || times.size() > 1 || waiting.size() >= ENOUGH) {
      timed = !plain && times.size() > 1;
      pass();
    }
  }

  /** After the last point. */
  void end() {
    if (timed == null) {
      timed = times.size() > 1;
      pass();
    }
  }

  private void pass() {
    waiting.forEach(one -> onCase(one.result, one.repeat));
    waiting.clear();
  }

  private static TestResult withoutTime(TestResult result) {
    Matcher matcher = TIMED.matcher(result.test().displayName());
    if (!matcher.find()) {
      return result;
    }
    long unit = "ms".equals(matcher.group(3)) ? 1000 : 1_000_000;
    long micros = Long.parseLong(String.valueOf(matcher.group(2))) * unit;
    Attempt attempt = result.attempts().get(0);
    return TestResult.of(
        TestId.ofPrinted(result.test().suite(), String.valueOf(matcher.group(1))),
        result.kind(),
        List.of(
            new Attempt(
                attempt.outcome(),
                attempt.durationMicros() == TestResult.NO_DURATION
                    ? micros
                    : attempt.durationMicros(),
                attempt.failures(),
                attempt.stdout(),
                attempt.stderr())),
        result.started(),
        result.properties(),
        result.file(),
        result.line());
  }

  @Override
  public void onBrokenOff(String how) {
    end();
    handler.onBrokenOff(how);
  }
}
