package org.vinecellar.core.formats.tap;

import com.google.re2j.Pattern;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.BoundedText;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.TextLines;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/** Reads one file, line by line; a point is handed on when all that belongs to it was read. */
final class TapParser {
  /** What Bats tells of in a point, though it is no test. */
  private static final Pattern HOOK =
      Pattern.compile(
          "(?:setup_file|teardown_file|setup_suite|teardown_suite) failed|bats-gather-tests");

  private static final int MAX_INDENT = 200;
  private static final String NO_SUMMARY = "(subtest without a result)";

  private final TextLines lines;
  private final ReadLimits limits;
  private final CaseHandler handler;
  private final Problems problems;
  private TapDocument document;
  private int cases;

  // What the last point waits for.
  private TapLine.@Nullable Point point;
  private int pointNumber;
  private @Nullable TapDocument nested;
  private @Nullable String pointOutput;
  private boolean inYaml;
  private int yamlIndent;
  private final BoundedText yaml;
  private TapDiagnostics diagnostics = TapDiagnostics.NONE;
  private final BoundedText comments;

  /** What was printed and is no TAP, since the last point. */
  private final BoundedText printed;

  private @Nullable String announced;
  private @Nullable TapDocument closed;
  private boolean bailedOut;
  private boolean todoNeverCounts;

  /** Points behind which a brace began a nested document that has no end yet. */
  private final Deque<Opened> opened = new ArrayDeque<>();

  /** A point that waits for the end of what is nested behind it. */
  private record Opened(
      TapLine.Point point, TapDiagnostics diagnostics, @Nullable String output, int number) {}

  TapParser(TextLines lines, String suite, ReadLimits limits, CaseHandler handler) {
    this.lines = lines;
    this.limits = limits;
    this.handler = handler;
    this.problems = new Problems(handler, limits.maxProblems());
    this.yaml = new BoundedText(limits.maxTextChars());
    this.comments = new BoundedText(limits.maxTextChars());
    this.printed = new BoundedText(limits.maxTextChars());
    this.document = new TapDocument(suite.isBlank() ? SuitePath.ROOT : SuitePath.ROOT.child(suite));
  }

  void parse() throws IOException {
    for (String line = lines.next(); line != null; line = lines.next()) {
      if (!inYaml || !inBlock(line)) {
        take(TapLine.of(line));
      }
    }
    if (inYaml) {
      problems.add("a YAML block has no end (...)");
      endBlock();
    }
    finish();
    closeOpened(0);
    finish();
    String last = printed.take();
    if (last != null) {
      problems.add(
          "what was printed after the last test is in the raw file only: “"
              + shown(last.lines().findFirst().orElse("").strip())
              + "”");
    }
    pop(0);
    closeUnsummed();
    check(document);
    problems.close();
  }

  /** Adds a line to the YAML block; false when the block ended before it without saying so. */
  private boolean inBlock(String line) {
    String text = line.strip();
    if (text.equals("...") && line.indexOf("...") <= yamlIndent) {
      endBlock();
      return true;
    }
    boolean inside =
        text.isEmpty()
            || (line.length() - line.stripLeading().length() >= yamlIndent
                && (point == null || yamlIndent > point.indent() || isPlain(line)));
    if (!inside) {
      problems.add("a YAML block before line " + lines.number() + " has no end (...)");
      endBlock();
      return false;
    }
    yaml.add(line.substring(Math.min(yamlIndent, line.length())));
    return true;
  }

  /** In a block as far left as its point: whether the line is nothing but text. */
  private static boolean isPlain(String line) {
    return TapLine.of(line) instanceof TapLine.Other;
  }

  private void endBlock() {
    String block = yaml.take();
    diagnostics = block == null ? TapDiagnostics.NONE : TapDiagnostics.of(block);
    inYaml = false;
  }

  private void take(TapLine line) {
    if (line instanceof TapLine.Point next) {
      finish();
      closeOpened(next.indent());
      enter(next.indent());
      // Only runners of JavaScript tell a time in this way.
      todoNeverCounts |= next.micros() >= 0;
      begin(next);
      if (next.opens()) {
        open();
      }
    } else if (line instanceof TapLine.Brace brace) {
      brace(brace);
    } else if (line instanceof TapLine.Header header) {
      todoNeverCounts |= header.version() >= 14;
    } else if (line instanceof TapLine.Plan plan) {
      finish();
      closeOpened(plan.indent());
      enter(plan.indent());
      plan(plan.planned());
      if (plan.planned() == 0 && plan.reason() != null) {
        problems.add("plans no test: " + shown(plan.reason()));
      }
    } else if (line instanceof TapLine.Subtest subtest) {
      finish();
      closeOpened(subtest.indent());
      checked(subtest.name());
      announce(subtest);
    } else if (line instanceof TapLine.Bail bail) {
      finish();
      bailOut(bail);
    } else if (line instanceof TapLine.Comment comment) {
      if (point != null) {
        comments.add(comment.text().strip());
      }
    } else if (line instanceof TapLine.Other other) {
      other(other);
    }
  }

  private void plan(long planned) {
    if (planned > limits.maxCases()) {
      throw new UnreadableFileException(
          "plans "
              + planned
              + " tests at line "
              + lines.number()
              + "; at most "
              + limits.maxCases()
              + " are taken, so split it into several files");
    }
    document.plan(planned);
  }

  /** What follows is nested, and stands behind its point instead of before it. */
  private void open() {
    TapLine.Point waits = point;
    if (waits == null) {
      return;
    }
    opened.push(new Opened(waits, diagnostics, pointOutput, pointNumber));
    point = null;
    diagnostics = TapDiagnostics.NONE;
    announced = waits.name().isEmpty() ? "test " + pointNumber : waits.name();
  }

  private void brace(TapLine.Brace brace) {
    Opened top = opened.peek();
    if (brace.opens() && point != null && brace.indent() == point.indent()) {
      open();
    } else if (!brace.opens() && top != null && top.point.indent() == brace.indent()) {
      finish();
      end(opened.pop());
    } else {
      printed.add(" ".repeat(Math.min(brace.indent(), MAX_INDENT)) + (brace.opens() ? "{" : "}"));
    }
  }

  /** Ends what is nested behind points at this level or deeper, without its brace. */
  private void closeOpened(int indent) {
    for (Opened top = opened.peek();
        top != null && top.point.indent() >= indent;
        top = opened.peek()) {
      end(opened.pop());
      TapLine.Point ended = top.point;
      if (nested == null && ended.opens()) {
        // Nothing came: the brace is of the name.
        point = ended.named((ended.name() + " {").strip());
      } else {
        problems.add("the subtest “" + shown(ended.name()) + "” has no end (})");
      }
      finish();
    }
  }

  private void end(Opened top) {
    announced = null;
    pop(top.point.indent());
    point = top.point;
    pointNumber = top.number;
    pointOutput = top.output;
    diagnostics = top.diagnostics;
    comments.take();
    nested = closed;
    closed = null;
  }

  private void other(TapLine.Other other) {
    if (point != null && other.text().strip().equals("---") && other.indent() >= point.indent()) {
      inYaml = true;
      yamlIndent = other.indent();
    } else if (!other.text().isBlank()) {
      printed.add(" ".repeat(Math.min(other.indent(), MAX_INDENT)) + other.text());
    }
  }

  /** An announcement at a deeper level than the present belongs to a document that begins there. */
  private void announce(TapLine.Subtest subtest) {
    if (subtest.indent() > document.indent()) {
      boolean own = announced == null;
      push(subtest.indent(), own ? subtest.name() : announced);
      announced = own ? null : subtest.name();
    } else {
      pop(subtest.indent());
      announced = subtest.name();
    }
  }

  private void enter(int indent) {
    if (indent > document.indent()) {
      push(indent, announced);
      announced = null;
    } else {
      pop(indent);
    }
  }

  private void push(int indent, @Nullable String name) {
    int depth = 0;
    for (TapDocument at = document; at.parent() != null; at = at.parent()) {
      depth++;
    }
    if (depth == limits.maxDepth()) {
      throw new UnreadableFileException(
          "nests subtests deeper than " + limits.maxDepth() + " at line " + lines.number());
    }
    document = new TapDocument(indent, document, name);
  }

  private void pop(int indent) {
    TapDocument outer = document.parent();
    while (outer != null && document.indent() > indent) {
      closeUnsummed();
      if (outer.indent() < indent) {
        document.standIn(indent);
      }
      closed = document;
      leave();
      outer = document.parent();
    }
  }

  /** A nested document that no point has summed up. */
  private void closeUnsummed() {
    TapDocument inner = closed;
    closed = null;
    if (inner != null) {
      inner.close(NO_SUMMARY, handler);
      problems.add("the subtest “" + shown(inner.name()) + "” has no result of its own");
    }
  }

  private void leave() {
    check(document);
    TapDocument parent = document.parent();
    if (parent != null) {
      document = parent;
    }
  }

  /**
   * The elements are the truth; but by the standard a stream that has another number of tests than
   * it planned has failed. Without a plan at its end it was cut off.
   */
  private void check(TapDocument done) {
    String whose = done.parent() == null ? "" : " of the subtest “" + shown(done.name()) + "”";
    if (bailedOut || done.planned() == done.points()) {
      return;
    }
    boolean outermost = done.parent() == null;
    if (done.planned() >= 0) {
      String what =
          "the plan"
              + whose
              + " is of "
              + done.planned()
              + (done.planned() == 1 ? " test" : " tests")
              + ", but there "
              + (done.points() == 1 ? "is " : "are ")
              + done.points();
      if (outermost && done.points() < done.planned()) {
        handler.onBrokenOff(what);
      } else {
        problems.add(what);
        handler.onFailed(what);
      }
    } else if (outermost && done.points() > 0) {
      handler.onBrokenOff("there is no plan (1..N), so nobody knows which tests are missing");
    }
  }

  private void begin(TapLine.Point next) {
    if (++cases > limits.maxCases()) {
      throw new UnreadableFileException(
          "has more than " + limits.maxCases() + " test points; split it into several files");
    }
    checked(next.name());
    point = next;
    pointNumber = document.count();
    pointOutput = printed.take();
    announced = null;
    nested = closed;
    closed = null;
  }

  /** The name, when it is not too long. */
  private String checked(String name) {
    if (name.length() > limits.maxNameChars()) {
      throw new UnreadableFileException(
          "has a name of "
              + name.length()
              + " characters at line "
              + lines.number()
              + "; at most "
              + limits.maxNameChars()
              + " are taken");
    }
    return name;
  }

  /** Hands on the point that waits. */
  private void finish() {
    TapLine.Point done = point;
    if (done == null) {
      return;
    }
    point = null;
    Outcome outcome = outcome(done);
    String name = done.name().isEmpty() ? "test " + pointNumber : done.name();
    TapDocument inner = nested;
    nested = null;
    if (inner != null) {
      inner.close(name, handler);
    }
    if (inner != null && inner.points() > 0) {
      summedUp(inner, done, outcome);
    } else if (outcome.isFailing() && HOOK.matcher(name).matches()) {
      document.emit(null, attempt(done, Outcome.ERRORED), properties(done), handler);
    } else {
      document.emit(name, attempt(done, outcome), properties(done), handler);
    }
    if (outcome.isFailing()) {
      document.countFailing();
    }
    diagnostics = TapDiagnostics.NONE;
    comments.take();
  }

  /** A nested document failed though nothing in it did: what is around its tests went wrong. */
  private void summedUp(TapDocument inner, TapLine.Point done, Outcome outcome) {
    if (outcome.isFailing() && inner.failing() == 0) {
      inner.emit(null, attempt(done, Outcome.ERRORED), properties(done), handler);
    }
  }

  private Outcome outcome(TapLine.Point done) {
    boolean todo = "TODO".equals(done.directive());
    // Runners of JavaScript never count one as passed; in Perl it is a promise kept early.
    if ("SKIP".equals(done.directive())
        || (todo && (!done.ok() || todoNeverCounts || diagnostics.isOfNode()))) {
      return Outcome.SKIPPED;
    }
    if (done.ok()) {
      return Outcome.PASSED;
    }
    return diagnostics.isNotReached() ? Outcome.NOT_REACHED : Outcome.FAILED;
  }

  private Attempt attempt(TapLine.Point done, Outcome outcome) {
    String said = comments.take();
    String output = pointOutput;
    List<Failure> failures = List.of();
    if (outcome == Outcome.SKIPPED) {
      boolean todo = "TODO".equals(done.directive());
      String reason = (todo ? "to do" : "") + (todo && !done.reason().isEmpty() ? ": " : "");
      String message = reason + done.reason();
      failures = message.isEmpty() ? List.of() : List.of(new Failure(null, message, said));
    } else if (outcome != Outcome.PASSED) {
      failures = List.of(diagnostics.failure(said));
    } else if (said != null) {
      output = output == null ? said : output + "\n" + said;
    }
    long micros = diagnostics.durationMicros();
    return new Attempt(
        outcome, micros == TestResult.NO_DURATION ? done.micros() : micros, failures, output, null);
  }

  private Map<String, String> properties(TapLine.Point done) {
    Map<String, String> properties = diagnostics.properties(limits.maxProperties());
    if ("TODO".equals(done.directive()) && done.ok()) {
      properties.put("todo", done.reason());
    }
    return properties;
  }

  /** What comes after never ran: tests that the run before had here are not reached. */
  private void bailOut(TapLine.Bail bail) {
    pop(0);
    bailedOut = true;
    String message = "Bail out!" + (bail.reason().isEmpty() ? "" : " " + bail.reason());
    problems.add("the run was given up: " + shown(message));
    document.emit(
        null,
        new Attempt(
            Outcome.ERRORED,
            TestResult.NO_DURATION,
            List.of(new Failure(null, message, null)),
            null,
            null),
        Map.of(),
        handler);
  }

  private static String shown(@Nullable String text) {
    String known = text == null ? "" : text;
    return known.length() > 80 ? known.substring(0, 80) + "…" : known;
  }
}
