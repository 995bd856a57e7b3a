package org.vinecellar.core.formats.junitxml;

import java.time.Instant;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.SuiteHeader;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/** The grammar of one file, by descent: each method reads one element to its end. */
final class JUnitXmlParser {
  private final XMLStreamReader2 xml;
  private final ReadLimits limits;
  private final CaseHandler handler;
  private final Problems problems;
  private final TextReader texts;
  private final CaseParser cases;
  private int caseCount;
  private int failing;
  private int stumbled;
  private int errored;

  /** Cases that tell of a teardown too, which some count as one more. */
  private int teardowns;

  private SuiteVariants variants;
  private @Nullable SkippedTries skippedTries;

  JUnitXmlParser(
      XMLStreamReader2 xml,
      TextReader texts,
      ReadLimits limits,
      CaseHandler handler,
      Problems problems) {
    this.xml = xml;
    this.limits = limits;
    this.handler = handler;
    this.problems = problems;
    this.texts = texts;
    this.variants = new SuiteVariants(false, problems);
    this.cases = new CaseParser(xml, texts, limits, problems);
  }

  /** Reads the root element, on whose start the tokenizer stands. */
  void root() throws XMLStreamException {
    String root = xml.getLocalName();
    boolean surefire = isSurefire();
    cases.classIsSuite(surefire);
    // What Surefire calls all that TestNG ran.
    boolean testNg = surefire && "TestSuite".equals(xml.getAttributeValue(null, "name"));
    skippedTries = testNg ? new SkippedTries(handler) : null;
    variants = new SuiteVariants(xml.getAttributeValue(null, "id") != null, problems);
    switch (root) {
      case "testsuites" -> {
        Header header = header();
        suites(0);
        if (stumbled == 0) {
          failedItself(header, SuitePath.ROOT, null, 0);
        }
      }
      case "testsuite" -> {
        try {
          suite(SuitePath.ROOT, Variant.NONE, null, 0);
        } finally {
          // Of a file that is cut off too.
          endSkipped();
        }
      }
      default ->
          throw new UnreadableFileException(
              "has the root element <" + root + ">; testsuites or testsuite is expected");
    }
  }

  /**
   * Whether the file names the schema of Maven's Surefire. There a file gathers cases of several
   * classes, and a class stands in several files: only the class of a case tells where it belongs.
   */
  private boolean isSurefire() {
    for (int i = 0; i < xml.getAttributeCount(); i++) {
      if (xml.getAttributeLocalName(i).endsWith("noNamespaceSchemaLocation")
          && xml.getAttributeValue(i).contains("surefire")) {
        return true;
      }
    }
    return false;
  }

  private void suites(int depth) throws XMLStreamException {
    while (texts.nextChild()) {
      switch (xml.getLocalName()) {
        case "testsuite" -> suite(SuitePath.ROOT, Variant.NONE, null, depth + 1);
        case "testcase" -> testCase(SuitePath.ROOT, Variant.NONE, null);
        case "properties" -> properties(true);
        default -> texts.skip();
      }
    }
  }

  /** Returns nothing; counts what the suite holds, nested suites included. */
  private void suite(SuitePath parent, Variant outer, @Nullable Instant parentStart, int depth)
      throws XMLStreamException {
    if (depth > limits.maxDepth()) {
      throw new UnreadableFileException(
          "nests suites deeper than " + limits.maxDepth() + " at line " + line());
    }
    String name = texts.name("name");
    SuitePath path = name == null || name.isBlank() ? parent : parent.child(name);
    Variant variant = outer.with(variants.of(path, name, xml.getAttributeValue(null, "hostname")));
    Instant started = started(parentStart);
    Header header = header();
    int line = line();
    int before = caseCount;
    int failedBefore = failing;
    int stumbledBefore = stumbled;
    int teardownsBefore = teardowns;
    int erroredBefore = errored;
    String said = null;
    while (texts.nextChild()) {
      switch (xml.getLocalName()) {
        case "testsuite" -> suite(path, variant, started, depth + 1);
        case "testcase" -> testCase(path, variant, started);
        case "properties" -> properties(depth <= 1);
        case "system-err" -> {
          if (said == null && header.errors > 0) {
            said = texts.text();
          } else {
            texts.skip();
          }
        }
        default -> texts.skip();
      }
    }
    endSkipped();
    int found = caseCount - before;
    compare(header.tests, found + teardowns - teardownsBefore, path, line);
    handler.onHeader(new SuiteHeader(header.tests, header.failing, found, failing - failedBefore));
    // Runners of API collections tell of scripts and requests that failed in this way alone.
    boolean besideCases =
        said != null
            && header.errors > 0
            && errored == erroredBefore
            && teardowns == teardownsBefore
            && header.failing > failing - failedBefore;
    if (stumbled == stumbledBefore || besideCases) {
      failedItself(header, path, said, failing - failedBefore);
    }
  }

  private void endSkipped() {
    if (skippedTries != null) {
      skippedTries.end();
    }
  }

  /** What a suite says of itself; negative where it does not. */
  private record Header(int tests, int errors, int failing) {}

  private Header header() {
    int failures = number("failures");
    int errors = number("errors");
    return new Header(
        number("tests"),
        errors,
        failures < 0 && errors < 0 ? -1 : Math.max(failures, 0) + Math.max(errors, 0));
  }

  private int number(String attribute) {
    String value = xml.getAttributeValue(null, attribute);
    return value != null && value.matches("[0-9]{1,9}") ? Integer.parseInt(value) : -1;
  }

  /** A suite that says that something failed, and shows nothing that did. */
  private void failedItself(Header header, SuitePath path, @Nullable String said, int shown) {
    if (header.failing <= 0) {
      return;
    }
    failing++;
    stumbled++;
    errored++;
    String says =
        "the suite says that "
            + header.failing
            + " failed, but shows "
            + (shown == 0 ? "none that did" : shown + " that did")
            + ": a hook, or an error outside of its tests";
    handler.onCase(FailedSetUp.of(path, null, new Failure(null, says, said)));
  }

  private @Nullable Instant started(@Nullable Instant otherwise) {
    String timestamp = xml.getAttributeValue(null, "timestamp");
    Instant own = timestamp == null ? null : Timestamps.parse(timestamp);
    return own == null ? otherwise : own;
  }

  /** Elements are the truth; but a header that promises more than there is hints at a loss. */
  private void compare(int number, int found, SuitePath path, int line) {
    if (number > found) {
      problems.add(
          "suite “"
              + shortened(path.name())
              + "” (line "
              + line
              + ") says it has "
              + number
              + " tests, but holds "
              + found);
    }
  }

  private void testCase(SuitePath suite, Variant variant, @Nullable Instant started)
      throws XMLStreamException {
    if (++caseCount > limits.maxCases()) {
      throw new UnreadableFileException(
          "has more than " + limits.maxCases() + " test cases; split it into several files");
    }
    TestResult result = cases.read(suite, started);
    if (cases.isNobody()) {
      caseCount--;
      handler.onBrokenOff("a case without a name stands in it: the run was stopped while it ran");
      return;
    }
    if (cases.isFineHook()) {
      return;
    }
    failing += result.outcome().isFailing() ? 1 : 0;
    stumbled += cases.hasStumbled() ? 1 : 0;
    errored += cases.hasError() ? 1 : 0;
    teardowns += cases.repeat() == Repeat.SAME_TRY ? 1 : 0;
    TestResult told = variant.isNone() ? result : result.ofTest(result.test().in(variant));
    if (skippedTries == null) {
      handler.onCase(told, cases.repeat());
    } else {
      skippedTries.add(told, cases.repeat());
    }
  }

  private void properties(boolean ofWholeFile) throws XMLStreamException {
    while (texts.nextChild()) {
      String name = xml.getAttributeValue(null, "name");
      String value = xml.getAttributeValue(null, "value");
      if (ofWholeFile && name != null && value != null && xml.getLocalName().equals("property")) {
        handler.onProperty(texts.restored(name), texts.restored(value));
      }
      texts.skip();
    }
  }

  private int line() {
    return xml.getLocation().getLineNumber();
  }

  private static String shortened(String text) {
    return text.length() > 80 ? text.substring(0, 80) + "…" : text;
  }
}
