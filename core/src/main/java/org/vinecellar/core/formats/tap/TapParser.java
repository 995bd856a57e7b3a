package org.vinecellar.core.formats.tap;

import com.google.re2j.Pattern;
import java.io.IOException;
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
    boolean inside = text.isEmpty() || line.length() - line.stripLeading().length() >= yamlIndent;
    if (!inside) {
      problems.add("a YAML block before line " + lines.number() + " has no end (...)");
      endBlock();
      return false;
    }
    yaml.add(line.substring(Math.min(yamlIndent, line.length())));
    return true;
  }

  private void endBlock() {
    String block = yaml.take();
    diagnostics = block == null ? TapDiagnostics.NONE : TapDiagnostics.of(block);
    inYaml = false;
  }

  private void take(TapLine line) {
    if (line instanceof TapLine.Point next) {
      finish();
      enter(next.indent());
      begin(next);
    } else if (line instanceof TapLine.Plan plan) {
      finish();
      enter(plan.indent());
      document.plan(plan.planned());
      if (plan.planned() == 0 && plan.reason() != null) {
        problems.add("plans no test: " + shown(plan.reason()));
      }
    } else if (line instanceof TapLine.Subtest subtest) {
      finish();
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

  private void other(TapLine.Other other) {
    if (point != null && other.text().strip().equals("---") && other.indent() > point.indent()) {
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

  /** The elements are the truth; but a plan of more than there is hints at a loss. */
  private void check(TapDocument done) {
    String whose = done.parent() == null ? "" : " of the subtest “" + shown(done.name()) + "”";
    if (bailedOut || done.planned() == done.points()) {
      return;
    }
    if (done.planned() >= 0) {
      problems.add(
          "the plan"
              + whose
              + " is of "
              + done.planned()
              + " tests, but there are "
              + done.points());
    } else if (done.parent() == null && done.points() > 0) {
      problems.add("there is no plan (1..N), so nobody knows whether tests are missing");
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
    if ("SKIP".equals(done.directive()) || ("TODO".equals(done.directive()) && !done.ok())) {
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
    return new Attempt(outcome, diagnostics.durationMicros(), failures, output, null);
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
            org.vinecellar.core.results.TestResult.NO_DURATION,
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
