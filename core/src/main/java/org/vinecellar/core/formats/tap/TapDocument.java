package org.vinecellar.core.formats.tap;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * A TAP document, or one nested in it. The name of a nested one may come only after it, with the
 * point that sums it up; its results are held until then.
 */
final class TapDocument {
  private static final int MAX_HELD = 200_000;

  private final int indent;
  private @Nullable TapDocument parent;
  private final List<Draft> held = new ArrayList<>();
  private @Nullable String name;
  private @Nullable SuitePath path;
  private long planned = -1;
  private int points;
  private int failing;

  /** A result whose suite may not be known yet. */
  private record Draft(
      @Nullable Names suites,
      @Nullable String name,
      Attempt attempt,
      Map<String, String> properties) {
    /** Names of suites from the outermost in; the rest is shared, as deep as it may be. */
    private record Names(String first, @Nullable Names rest) {}

    Draft inside(String suite) {
      return new Draft(new Names(suite, suites), name, attempt, properties);
    }

    TestResult in(SuitePath outer) {
      SuitePath path = outer;
      for (Names at = suites; at != null; at = at.rest()) {
        path = path.child(at.first());
      }
      String test = name;
      return TestResult.of(
          test == null ? TestId.setUpOf(path) : TestId.ofPrinted(path, test),
          test == null ? ResultKind.SETUP : ResultKind.TEST,
          List.of(attempt),
          null,
          properties,
          null,
          0);
    }
  }

  /** The outermost document. */
  TapDocument(SuitePath path) {
    this.indent = 0;
    this.parent = null;
    this.path = path;
  }

  /**
   * A nested one.
   *
   * @param name null when it was not announced
   */
  TapDocument(int indent, TapDocument parent, @Nullable String name) {
    this.indent = indent;
    this.parent = parent;
    this.name = name;
    SuitePath outer = parent.path;
    this.path = outer == null || name == null ? null : outer.child(name);
  }

  int indent() {
    return indent;
  }

  @Nullable TapDocument parent() {
    return parent;
  }

  @Nullable String name() {
    return name;
  }

  /**
   * Puts a document between this one and its parent, which shows only when its first line comes.
   * Does nothing when results of this one were handed on.
   */
  void standIn(int indentBetween) {
    TapDocument outer = parent;
    if (path == null && outer != null) {
      parent = new TapDocument(indentBetween, outer, null);
    }
  }

  int points() {
    return points;
  }

  int failing() {
    return failing;
  }

  /** Of files that were written one behind the other, each has its plan. */
  void plan(long number) {
    planned = Math.max(planned, 0) + number;
  }

  /** How many points are planned; negative without a plan. */
  long planned() {
    return planned;
  }

  /** Counts a point and gives its number. */
  int count() {
    return ++points;
  }

  void countFailing() {
    failing++;
  }

  /**
   * Hands on a result, or holds it.
   *
   * @param test null for the set-up of this document
   */
  void emit(
      @Nullable String test, Attempt attempt, Map<String, String> properties, CaseHandler handler) {
    emit(new Draft(null, test, attempt, properties), handler);
  }

  private void emit(Draft draft, CaseHandler handler) {
    if (path != null) {
      handler.onCase(draft.in(path), Repeat.OTHER);
      return;
    }
    if (held.size() == MAX_HELD) {
      throw new UnreadableFileException(
          "has a subtest of more than "
              + MAX_HELD
              + " results that is named only after it; announce it with “# Subtest: NAME”");
    }
    held.add(draft);
  }

  /** Names the document by the point that sums it up, when it has no name yet. */
  void close(String summary, CaseHandler handler) {
    if (parent == null) {
      return;
    }
    String own = name == null ? summary : name;
    name = own;
    SuitePath outer = parent.path;
    if (path == null && outer != null) {
      path = outer.child(own);
    }
    for (Draft draft : held) {
      if (path != null) {
        handler.onCase(draft.in(path), Repeat.OTHER);
      } else {
        parent.emit(draft.inside(own), handler);
      }
    }
    held.clear();
  }
}
