package org.vinecellar.core.formats.gotest;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Makes events of what {@code go test} and {@code go test -v} print, as Go's own {@code
 * cmd/test2json} does. Which package tests belong to stands behind them, so they wait for it.
 */
final class PrintedTests {
  static final Pattern BEGINS =
      Pattern.compile(
          "(?m)^(?:=== RUN   \\S|--- (?:PASS|FAIL|SKIP): \\S.* \\([0-9.]+s\\)\r?$"
              + "|ok  \t\\S+\t|FAIL\t\\S+(?:\t[0-9]| \\[)|\\?   \t\\S+\t\\[no test files\\])");

  private static final Pattern MARK = Pattern.compile("^=== (RUN|PAUSE|CONT|NAME) +(.*)$");
  private static final Pattern END =
      Pattern.compile("^( *)--- (PASS|FAIL|SKIP): (\\S.*) \\(([0-9]{1,9}(?:\\.[0-9]{1,9})?)s\\)$");
  private static final Pattern PACKAGE =
      Pattern.compile("^(ok  |FAIL|\\?   )\t(\\S+)(?:[\t ](.*))?$");

  /** Kept of what the tests of one package print. */
  private static final int MAX_CHARS = 10_000_000;

  private static final int MAX_EVENTS = 200_000;

  /** A package in which no line tells its name. */
  private static final String UNTOLD = "(package not told)";

  private final Consumer<ObjectNode> events;
  private final List<ObjectNode> waiting = new ArrayList<>();
  private final List<ObjectNode> ends = new ArrayList<>();
  private final Set<String> begun = new HashSet<>();

  /** What the current test has printed and no event tells yet. */
  private final StringBuilder printed = new StringBuilder();

  private @Nullable String printedBy;
  private boolean cut;
  private @Nullable String current;
  private int chars;
  private int quiet;

  PrintedTests(Consumer<ObjectNode> events) {
    this.events = events;
  }

  /** Packages that passed and did not say which tests they have. */
  int quiet() {
    return quiet;
  }

  /** Whether the line is of a test, or ends a package. */
  boolean line(String line) {
    Matcher mark = MARK.matcher(line);
    if (mark.find()) {
      String name = String.valueOf(mark.group(2)).strip();
      if ("RUN".equals(mark.group(1))) {
        report(0);
        begin(name);
      }
      current = name.isEmpty() ? null : name;
      return true;
    }
    Matcher end = END.matcher(line);
    if (end.find()) {
      end(end);
      return true;
    }
    Matcher of = PACKAGE.matcher(line);
    if (of.find()) {
      return ofPackage(String.valueOf(of.group(1)), String.valueOf(of.group(2)), of.group(3));
    }
    if (waiting.isEmpty()) {
      return line.equals("FAIL") || line.equals("PASS") || line.startsWith("exit status ");
    }
    if (line.equals("PASS") || line.equals("FAIL")) {
      report(0);
      current = null;
    } else {
      print(line);
    }
    return true;
  }

  /** Lines of one test become one event. */
  private void print(String line) {
    if (!Objects.equals(current, printedBy)) {
      tell();
      printedBy = current;
    }
    chars += line.length() + 1;
    if (chars <= MAX_CHARS) {
      printed.append(line).append('\n');
    } else {
      cut = true;
    }
  }

  private void tell() {
    if (!printed.isEmpty()) {
      String text = printed.toString();
      printed.setLength(0);
      add("output", printedBy).put("Output", text);
    }
  }

  /** Whether not all that was printed is kept. */
  boolean isCut() {
    return cut;
  }

  /** After the last line: tests whose package nobody named. */
  void end() {
    if (!waiting.isEmpty()) {
      report(0);
      tell();
      hand(UNTOLD);
    }
  }

  private void begin(String name) {
    tell();
    add("run", name);
    begun.add(name);
  }

  /** Ends of inner tests are printed after that of the outer one, and come before it. */
  private void end(Matcher end) {
    String name = String.valueOf(end.group(3));
    if (!begun.remove(name)) {
      add("run", name);
    }
    int depth = String.valueOf(end.group(1)).length() / 4;
    report(depth);
    ObjectNode event = JsonNodeFactory.instance.objectNode();
    event.put("Action", String.valueOf(end.group(2)).toLowerCase(java.util.Locale.ROOT));
    event.put("Test", name);
    event.put("Elapsed", Double.parseDouble(String.valueOf(end.group(4))));
    ends.add(event);
    current = name;
  }

  private void report(int depth) {
    tell();
    while (ends.size() > depth) {
      waiting.add(ends.remove(ends.size() - 1));
    }
  }

  private boolean ofPackage(String word, String path, @Nullable String rest) {
    boolean failed = word.equals("FAIL");
    if (waiting.isEmpty() && ends.isEmpty()) {
      if (!failed) {
        quiet +=
            word.startsWith("ok") && !String.valueOf(rest).contains("[no tests to run]") ? 1 : 0;
        return true;
      }
      return false;
    }
    report(0);
    tell();
    add(failed ? "fail" : "pass", null);
    hand(path);
    return true;
  }

  private ObjectNode add(String action, @Nullable String test) {
    ObjectNode event = JsonNodeFactory.instance.objectNode();
    event.put("Action", action);
    if (test != null) {
      event.put("Test", test);
    }
    if (waiting.size() == MAX_EVENTS) {
      throw new UnreadableFileException(
          "has a package of more than "
              + MAX_EVENTS
              + " lines about tests; go test -json can be read in any length");
    }
    waiting.add(event);
    return event;
  }

  private void hand(ObjectNode event, String path) {
    event.put("Package", path);
    if (event.has("Output")) {
      event
          .path("Output")
          .asText()
          .lines()
          .forEach(line -> events.accept(event.deepCopy().put("Output", line + "\n")));
    } else {
      events.accept(event);
    }
  }

  private void hand(String path) {
    waiting.forEach(event -> hand(event, path));
    waiting.clear();
    begun.clear();
    current = null;
    printedBy = null;
    chars = 0;
  }
}
