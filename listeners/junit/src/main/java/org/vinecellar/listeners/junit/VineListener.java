package org.vinecellar.listeners.junit;

import java.io.PrintWriter;
import java.io.StringWriter;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.junit.platform.engine.TestExecutionResult;
import org.junit.platform.engine.reporting.ReportEntry;
import org.junit.platform.launcher.TestExecutionListener;
import org.junit.platform.launcher.TestIdentifier;
import org.junit.platform.launcher.TestPlan;

/**
 * Sends each result as soon as it is known, by way of {@code vine pipe}, which it starts. It is
 * found by the JUnit Platform when its jar is on the class path, and does nothing unless {@code
 * VINE_URL} is set. It never makes a test fail: what it cannot do it says once on standard error.
 *
 * <p>What is tried again in a further plan of the same process, as build tools do, is told as the
 * next try of its test. {@code VINE_COMMAND} names the client when it is not {@code vine}, for
 * instance {@code java -jar vine.jar}; what that prints goes to the file {@code VINE_PIPE_LOG}, or
 * nowhere.
 */
public final class VineListener implements TestExecutionListener {
  private final Map<String, String> environment;
  private final Map<String, Long> begun = new ConcurrentHashMap<>();
  private volatile @Nullable EventPipe pipe;
  private volatile @Nullable TestPlan plan;

  /** As the JUnit Platform makes it. */
  public VineListener() {
    this(System.getenv());
  }

  /**
   * With settings of its own.
   *
   * @param environment in place of the process's variables
   */
  public VineListener(Map<String, String> environment) {
    this.environment = Map.copyOf(environment);
  }

  @Override
  public synchronized void testPlanExecutionStarted(TestPlan started) {
    if (!environment.containsKey("VINE_URL")) {
      return;
    }
    plan = started;
    pipe = EventPipe.forPlan(environment);
  }

  @Override
  public void executionStarted(TestIdentifier test) {
    if (test.isTest()) {
      begin(test);
    }
  }

  private void begin(TestIdentifier test) {
    TestPlan of = plan;
    EventPipe out = pipe;
    if (of == null || out == null) {
      return;
    }
    begun.put(test.getUniqueId(), System.nanoTime());
    int attempt = out.nextTry(test.getUniqueId());
    TestNames names = TestNames.of(of, test);
    write(
        new EventLine("test started")
            .put("id", test.getUniqueId())
            .put("suite", names.suite())
            .put("test", names.test())
            .put("parameters", names.parameters())
            .put("time", Instant.now().toString())
            .put("attempt", attempt)
            .put("tags", test.getTags().stream().map(tag -> tag.getName()).sorted().toList()));
  }

  @Override
  public void executionSkipped(TestIdentifier test, String reason) {
    TestPlan of = plan;
    if (of == null) {
      return;
    }
    if (test.isTest()) {
      begin(test);
      write(ended(test, "skipped").put("message", reason));
    } else {
      of.getDescendants(test).stream()
          .filter(TestIdentifier::isTest)
          .forEach(one -> executionSkipped(one, reason));
    }
  }

  @Override
  public void executionFinished(TestIdentifier test, TestExecutionResult result) {
    TestPlan of = plan;
    if (of == null) {
      return;
    }
    Throwable thrown = result.getThrowable().orElse(null);
    if (test.isTest()) {
      write(failure(ended(test, outcome(result, thrown)), thrown));
    } else if (result.getStatus() == TestExecutionResult.Status.FAILED) {
      write(
          failure(new EventLine("set-up failed").put("suite", TestNames.suite(of, test)), thrown));
    }
  }

  private static String outcome(TestExecutionResult result, @Nullable Throwable thrown) {
    return switch (result.getStatus()) {
      case SUCCESSFUL -> "passed";
      case ABORTED -> "skipped";
      case FAILED -> thrown instanceof AssertionError ? "failed" : "errored";
    };
  }

  private EventLine ended(TestIdentifier test, String outcome) {
    Long start = begun.remove(test.getUniqueId());
    EventLine line =
        new EventLine("test finished").put("id", test.getUniqueId()).put("outcome", outcome);
    return start == null ? line : line.put("ms", (System.nanoTime() - start) / 1e6);
  }

  private static EventLine failure(EventLine line, @Nullable Throwable thrown) {
    if (thrown == null) {
      return line;
    }
    StringWriter trace = new StringWriter();
    thrown.printStackTrace(new PrintWriter(trace));
    return line.put("type", thrown.getClass().getName())
        .put("message", thrown.getMessage())
        .put("trace", trace.toString());
  }

  @Override
  public void reportingEntryPublished(TestIdentifier test, ReportEntry entry) {
    if (test.isTest()) {
      entry
          .getKeyValuePairs()
          .forEach(
              (name, value) ->
                  write(
                      new EventLine("property")
                          .put("id", test.getUniqueId())
                          .put("name", name)
                          .put("value", value)));
    }
  }

  @Override
  public synchronized void testPlanExecutionFinished(TestPlan finished) {
    EventPipe ended = pipe;
    pipe = null;
    plan = null;
    if (ended != null) {
      ended.planEnded();
    }
  }

  private void write(EventLine line) {
    EventPipe out = pipe;
    if (out != null) {
      out.write(line);
    }
  }
}
