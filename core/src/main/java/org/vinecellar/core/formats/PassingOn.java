package org.vinecellar.core.formats;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Passes everything on; what a reader wants to look at or change, it overrides. */
public abstract class PassingOn implements CaseHandler {
  protected final CaseHandler handler;

  /** To that one. */
  protected PassingOn(CaseHandler handler) {
    this.handler = handler;
  }

  @Override
  public void onFormat(String format) {
    handler.onFormat(format);
  }

  @Override
  public void onCase(TestResult result, Repeat repeat) {
    handler.onCase(result, repeat);
  }

  @Override
  public void onHeader(SuiteHeader header) {
    handler.onHeader(header);
  }

  @Override
  public void onFailed(String says) {
    handler.onFailed(says);
  }

  @Override
  public void onProperty(String name, String value) {
    handler.onProperty(name, value);
  }

  @Override
  public void onProblem(String problem) {
    handler.onProblem(problem);
  }

  @Override
  public void onBrokenOff(String how) {
    handler.onBrokenOff(how);
  }

  @Override
  public void onStart(TestId test, @Nullable Instant time) {
    handler.onStart(test, time);
  }

  @Override
  public void onEnd(TestId test) {
    handler.onEnd(test);
  }
}
