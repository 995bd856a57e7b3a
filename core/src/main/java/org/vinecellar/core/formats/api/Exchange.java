package org.vinecellar.core.formats.api;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * One request of a collection with what was asserted of it. Each assertion is a test in the suite
 * of its request; a script or a request that failed is a set-up of that suite.
 */
final class Exchange {
  private static final int MAX_ASSERTIONS = 100_000;

  private final List<Assertion> assertions = new ArrayList<>();
  private final List<Wrong> wrong = new ArrayList<>();
  private final Map<String, String> properties = new LinkedHashMap<>();
  private long micros = TestResult.NO_DURATION;

  private record Assertion(String name, Outcome outcome, @Nullable Failure failure) {}

  private record Wrong(String what, Failure failure) {}

  /** An assertion that was left out, or held. */
  void add(String name, boolean skipped) {
    add(new Assertion(name, skipped ? Outcome.SKIPPED : Outcome.PASSED, null));
  }

  /** An assertion that did not hold, or in which something else was thrown. */
  void add(String name, Failure failure) {
    String text = failure.trace() == null ? failure.message() : failure.trace();
    add(new Assertion(name, FailureKind.of(failure.type(), text), failure));
  }

  private void add(Assertion assertion) {
    if (assertions.size() == MAX_ASSERTIONS) {
      throw new UnreadableFileException(
          "has a request with more than " + MAX_ASSERTIONS + " assertions");
    }
    assertions.add(assertion);
  }

  /** Something that is no assertion failed: the request itself, or a script around it. */
  void wentWrong(String what, Failure failure) {
    if (wrong.size() < MAX_ASSERTIONS) {
      wrong.add(new Wrong(what, failure));
    }
  }

  /** What is told of the request; nothing when there is no value. */
  void tell(String property, @Nullable String value) {
    if (value != null && !value.isBlank()) {
      properties.put(property, value);
    }
  }

  /** How long the answer took. */
  void took(long time) {
    micros = time;
  }

  boolean isEmpty() {
    return assertions.isEmpty() && wrong.isEmpty();
  }

  /**
   * Hands on all of it. The time of the request counts with the first that is told of it.
   *
   * @param iteration counted from 0; those after the first are parameters of their tests
   */
  void emit(
      SuitePath suite, int iteration, @Nullable Instant started, Consumer<TestResult> handler) {
    String parameters = iteration > 0 ? "iteration " + (iteration + 1) : null;
    for (Wrong one : wrong) {
      String name = parameters == null ? one.what : one.what + " (" + parameters + ")";
      handler.accept(FailedSetUp.of(suite, name, one.failure));
    }
    long time = micros;
    for (Assertion one : assertions) {
      List<Failure> failures = one.failure == null ? List.of() : List.of(one.failure);
      handler.accept(
          TestResult.of(
              TestId.of(suite, one.name, parameters),
              ResultKind.TEST,
              List.of(new Attempt(one.outcome, time, failures, null, null)),
              started,
              properties,
              null,
              0));
      time = TestResult.NO_DURATION;
    }
  }
}
