package org.vinecellar.core.formats.gotest;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.BoundedText;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;

/** A test that has begun, with what it printed. */
final class RunningTest {
  private static final Pattern MARK = Pattern.compile("^\\s*(?:=== (?:RUN|PAUSE|CONT|NAME) )");
  private static final Pattern END =
      Pattern.compile("--- (PASS|FAIL|SKIP): (\\S.*) \\([0-9.]+s\\)\\s*$");
  private static final Pattern LOG = Pattern.compile("^\\s+([^\\s:]+\\.go:[0-9]+): (.*)$");
  private static final Pattern PANIC = Pattern.compile("^(?:panic: |fatal error: )(.*)$");
  private static final int LOGGED_CHARS = 100_000;

  private final String name;
  private final BoundedText output;
  private final BoundedText logged = new BoundedText(LOGGED_CHARS);
  private final StringBuilder line = new StringBuilder();
  private final @Nullable Instant started;
  private final boolean again;
  private boolean hasChildren;
  private boolean childFailed;
  private boolean inLog;
  private @Nullable String panic;
  private @Nullable Outcome printedEnd;

  RunningTest(String name, int maxTextChars, @Nullable Instant started, boolean again) {
    this.again = again;
    this.name = name;
    this.output = new BoundedText(maxTextChars);
    this.started = started;
  }

  /** Whether the process of its package had ended before it began. */
  boolean isAgain() {
    return again;
  }

  @Nullable Instant started() {
    return started;
  }

  void child(boolean failing) {
    hasChildren = true;
    childFailed |= failing;
  }

  boolean hasChildren() {
    return hasChildren;
  }

  boolean childFailed() {
    return childFailed;
  }

  /** A piece of output, which ends a line or does not. */
  void print(String piece, int most) {
    if (line.length() < most) {
      line.append(piece);
    }
    if (piece.endsWith("\n")) {
      line.setLength(Math.max(line.length() - 1, 0));
      line(line.toString());
      line.setLength(0);
    }
  }

  private void line(String text) {
    if (MARK.matcher(text).find()) {
      return;
    }
    Matcher end = END.matcher(text);
    if (end.find() && name.equals(end.group(2))) {
      // What a test printed without an end of line stands right before it.
      printedEnd =
          switch (String.valueOf(end.group(1))) {
            case "PASS" -> Outcome.PASSED;
            case "SKIP" -> Outcome.SKIPPED;
            default -> Outcome.FAILED;
          };
      String before = text.substring(0, end.start());
      if (!before.isBlank()) {
        output.add(before);
      }
      return;
    }
    Matcher panics = PANIC.matcher(text);
    if (panic == null && panics.find()) {
      panic = panics.group(1);
    }
    Matcher log = LOG.matcher(text);
    if (log.find()) {
      // Logged lines and errors look the same; what ended the test is the last of them.
      logged.take();
      logged.add(String.valueOf(log.group(2)));
      inLog = true;
    } else if (inLog && text.startsWith("        ")) {
      logged.add(text.strip());
    } else {
      inLog = false;
    }
    output.add(text);
  }

  /** What the output says of the end, where no event does; null when it says nothing. */
  @Nullable Outcome printedEnd() {
    return printedEnd;
  }

  boolean panicked() {
    return panic != null;
  }

  /** Message and trace from the output, or the reason for a skip. */
  Ending take(boolean wrong) {
    if (!line.isEmpty()) {
      line(line.toString());
      line.setLength(0);
    }
    String all = output.take();
    String message = panic != null ? "panic: " + panic : logged.take();
    Failure failure =
        panic != null ? new Failure("panic", message, all) : new Failure(null, message, null);
    boolean told = panic != null || message != null;
    return new Ending(told || wrong ? failure : null, panic != null && wrong ? null : all);
  }

  /**
   * What is left when a test has ended.
   *
   * @param failure null when it said nothing
   * @param output null when it printed nothing, or the failure holds it
   */
  record Ending(@Nullable Failure failure, @Nullable String output) {}
}
