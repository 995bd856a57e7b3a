package org.vinecellar.core.formats.junitxml;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.xml.AttributeText;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads one {@code testcase} element. */
final class CaseParser {
  private static final int MAX_TRIES = 200;

  /** What build tools call a failure of a class as a whole. */
  private static final Set<String> CLASS_SET_UPS = Set.of("initializationError", "classMethod");

  /** Of JavaScript's runners. */
  private static final Pattern HOOK =
      Pattern.compile(
          "^\"(?:before|after) (?:all|each)\" hook"
              + "|^@(?:Before|After)(?:Suite|Test|Groups|Class|Method) \\S");

  /** Through which TestNG calls a method that is no test. */
  private static final Pattern CONFIGURATION =
      Pattern.compile("at org\\.testng\\.\\S*Invoker\\.invokeConfiguration");

  /** What Surefire writes of TestNG: parameters, and the number of the call, retries included. */
  private static final Pattern CALL = Pattern.compile("^(\\S.*\\])\\([0-9]{1,9}\\)$");

  private static final Pattern SCRIPT = Pattern.compile("[^\\s:]+\\.[cm]?[jt]sx?");

  /** What pytest and mocha say of a test that had passed before. */
  private static final Pattern TEARDOWN =
      Pattern.compile("^failed on teardown with |^(?:Error: )?done\\(\\) called multiple times");

  private static final Pattern TEARDOWN_ERROR =
      Pattern.compile("(?i)tear[ _]?down|\\bafter[ _]?(?:each|all|hook)\\b|@After");

  private static final Pattern JAVA_CLASS =
      Pattern.compile("(?:[\\p{L}_$][\\p{L}\\p{N}_$]*[.])+\\p{Lu}[\\p{L}\\p{N}_$]*");

  private final XMLStreamReader2 xml;
  private final TextReader texts;
  private final ReadLimits limits;
  private final Problems problems;
  private final AttributeText value;

  // The suite of the class that the last case named; most cases name the same again.
  private SuitePath lastSuite = SuitePath.ROOT;
  private String lastClass = "";
  private SuitePath lastPath = SuitePath.ROOT;

  private boolean classIsSuite;

  // What failing cases of the present suite said; a skip that says the same was caused by them.
  private static final int MAX_SAID = 16;
  private static final int MAX_FAILURES = 200;
  private final Set<String> said = new HashSet<>();

  // What the present case holds.
  private @Nullable String name;
  private @Nullable String className;
  private @Nullable String file;
  private @Nullable Instant started;
  private int line;
  private long duration;
  private @Nullable Outcome byStatus;
  private boolean skipped;
  private boolean stumbled;
  private boolean error;
  private boolean isTeardown;
  private @Nullable Outcome failed;
  private final List<Failure> failures = new ArrayList<>();
  private final List<Attempt> flaky = new ArrayList<>();
  private final List<Attempt> reruns = new ArrayList<>();
  private @Nullable String stdout;
  private @Nullable String stderr;
  private Map<String, String> properties = Map.of();

  CaseParser(XMLStreamReader2 xml, TextReader texts, ReadLimits limits, Problems problems) {
    this.xml = xml;
    this.texts = texts;
    this.limits = limits;
    this.problems = problems;
    this.value = new AttributeText(texts);
  }

  /** Whether the class alone is the suite of a case, whatever suite it stands in. */
  void classIsSuite(boolean yes) {
    classIsSuite = yes;
  }

  TestResult read(SuitePath suite, @Nullable Instant suiteStarted) throws XMLStreamException {
    clear();
    started = suiteStarted;
    attributes();
    name = classIsSuite ? withoutCall(name) : name;
    while (texts.nextChild()) {
      child(xml.getLocalName());
    }
    SuitePath path = path(suite);
    List<Attempt> attempts = attempts();
    remember(attempts);
    boolean failing = attempts.get(attempts.size() - 1).outcome().isFailing();
    boolean hook = failing && name != null && (isHook(name) || isCollection() || isConfiguration());
    ResultKind kind = hook || (failing && namesNoTest(path)) ? ResultKind.SETUP : ResultKind.TEST;
    TestId id =
        kind == ResultKind.SETUP && !hook
            ? TestId.setUpOf(path)
            : TestId.ofPrinted(path, name == null || name.isBlank() ? "(unnamed)" : name);
    stumbled = failing || failed != null || Attempt.anyFailed(attempts);
    isTeardown = failing && failures.stream().anyMatch(this::isTeardown);
    return TestResult.of(id, kind, attempts, started, properties, file, line);
  }

  /** Whether the case tells neither name nor class nor fault: it was under way when all ended. */
  boolean isNobody() {
    return name == null && className == null && !stumbled && !skipped;
  }

  private static @Nullable String withoutCall(@Nullable String name) {
    Matcher call =
        name == null || !name.endsWith(")") || !name.contains("](") ? null : CALL.matcher(name);
    return call != null && call.matches() ? call.group(1) : name;
  }

  /** What each case is asked: by its first character mostly. */
  private static boolean isHook(String name) {
    char first = name.isEmpty() ? ' ' : name.charAt(0);
    return (first == '"' || first == '@') && HOOK.matcher(name).find();
  }

  private boolean isConfiguration() {
    for (Failure one : failures) {
      String trace = one.trace();
      if (trace != null
          && trace.contains("at org.testng.")
          && CONFIGURATION.matcher(trace).find()) {
        return true;
      }
    }
    return false;
  }

  /** Whether it is a hook that did well, which is no test. */
  boolean isFineHook() {
    return !stumbled && !skipped && name != null && isHook(name);
  }

  /** Whether it tells of an error, in the word of the file. */
  boolean hasError() {
    return error;
  }

  /** Whether anything went wrong in it, whatever became of that. */
  boolean hasStumbled() {
    return stumbled;
  }

  /** What the case is, should its test have been told of before. */
  Repeat repeat() {
    if (isTeardown) {
      return Repeat.SAME_TRY;
    }
    // Surefire names a file after the last class in it, and writes what it ran again into another.
    return classIsSuite ? Repeat.RETRY_BESIDE : Repeat.UNTOLD;
  }

  private boolean isTeardown(Failure failure) {
    String message = failure.message();
    String text = message == null ? failure.trace() : message;
    return text != null
        && (TEARDOWN.matcher(text).find()
            || (failed == Outcome.ERRORED && TEARDOWN_ERROR.matcher(text).find()));
  }

  /** A module that Python's runner could not load. */
  private boolean isCollection() {
    return (className == null || className.isBlank())
        && !failures.isEmpty()
        && "collection failure".equals(failures.get(0).message());
  }

  private void remember(List<Attempt> attempts) {
    Attempt last = attempts.get(attempts.size() - 1);
    String message = last.failures().isEmpty() ? null : last.failures().get(0).message();
    if (last.outcome().isFailing() && message != null && said.size() < MAX_SAID) {
      said.add(message);
    }
  }

  private void clear() {
    error = false;
    name = null;
    className = null;
    file = null;
    line = 0;
    duration = TestResult.NO_DURATION;
    byStatus = null;
    skipped = false;
    failed = null;
    if (!failures.isEmpty()) {
      failures.clear();
    }
    if (!flaky.isEmpty() || !reruns.isEmpty()) {
      flaky.clear();
      reruns.clear();
    }
    stdout = null;
    stderr = null;
    properties = Map.of();
  }

  private void attributes() throws XMLStreamException {
    for (int i = 0; i < xml.getAttributeCount(); i++) {
      switch (xml.getAttributeLocalName(i)) {
        case "name" -> name = value(i).text("name");
        case "classname" -> className = value(i).textOr("classname", lastClass);
        case "time" -> duration = duration(i);
        case "file" -> file = value(i).text("file");
        case "line" -> line = line(xml.getAttributeValue(i));
        case "timestamp" -> {
          Instant own = Timestamps.parse(xml.getAttributeValue(i));
          started = own == null ? started : own;
        }
        case "status", "result" -> byStatus = status(xml.getAttributeValue(i), byStatus);
        default -> {
          // other attributes repeat what we have
        }
      }
    }
  }

  private static int line(String value) {
    return value.matches("[0-9]{1,9}") ? Integer.parseInt(value) : 0;
  }

  private AttributeText value(int attribute) throws XMLStreamException {
    xml.getAttributeAs(attribute, value);
    return value;
  }

  private long duration(int attribute) throws XMLStreamException {
    long micros = value(attribute).micros();
    if (micros == TestResult.NO_DURATION && !value.isBlank()) {
      problems.add("time “" + value.shown() + "” at line " + line() + " is not a duration");
    }
    return micros;
  }

  private static @Nullable Outcome status(String value, @Nullable Outcome before) {
    return switch (value.toLowerCase(Locale.ROOT)) {
      case "notrun", "disabled", "skipped", "ignored", "pending", "suppressed" -> Outcome.SKIPPED;
      case "fail", "failed" -> Outcome.FAILED;
      case "error", "errored" -> Outcome.ERRORED;
      default -> before;
    };
  }

  private void child(String element) throws XMLStreamException {
    switch (element) {
      case "failure" -> failing(Outcome.FAILED);
      case "error" -> {
        error = true;
        failing(Outcome.ERRORED);
      }
      case "skipped" -> {
        skipped = true;
        if (failures.size() < MAX_FAILURES) {
          failures.add(failure());
        } else {
          texts.skip();
        }
      }
      case "flakyFailure" -> tries(flaky, Outcome.FAILED);
      case "flakyError" -> tries(flaky, Outcome.ERRORED);
      case "rerunFailure" -> tries(reruns, Outcome.FAILED);
      case "rerunError" -> tries(reruns, Outcome.ERRORED);
      case "system-out" -> stdout = joined(stdout, texts.text());
      case "system-err" -> stderr = joined(stderr, texts.text());
      case "properties" -> properties();
      default -> texts.skip();
    }
  }

  private void tries(List<Attempt> tries, Outcome outcome) throws XMLStreamException {
    if (flaky.size() + reruns.size() < MAX_TRIES) {
      tries.add(attempt(outcome));
    } else {
      problems.add("more than " + MAX_TRIES + " tries of a case, line " + line());
      texts.skip();
    }
  }

  private void failing(Outcome outcome) throws XMLStreamException {
    // A failure after an error, or the other way round, is a second thing that went wrong in the
    // same try: what an expectation said weighs more than what went wrong after it.
    failed = failed == null ? outcome : failed == outcome ? failed : Outcome.FAILED;
    if (failures.size() < MAX_FAILURES) {
      failures.add(failure());
    } else {
      problems.add("more than " + MAX_FAILURES + " failures of a case, line " + line());
      texts.skip();
    }
  }

  private Failure failure() throws XMLStreamException {
    String type = attribute("type");
    String message = attribute("message");
    return new Failure(type, message, texts.text());
  }

  private @Nullable String attribute(String attribute) {
    String value = xml.getAttributeValue(null, attribute);
    if (value == null || value.isBlank()) {
      return null;
    }
    String cut =
        value.length() > limits.maxTextChars()
            ? value.substring(0, limits.maxTextChars()) + "…"
            : value;
    return texts.restored(cut);
  }

  /** An earlier or later try, with its trace as text or in an element of its own. */
  private Attempt attempt(Outcome outcome) throws XMLStreamException {
    String type = attribute("type");
    String message = attribute("message");
    int at = xml.getAttributeIndex(null, "time");
    long micros = at < 0 ? TestResult.NO_DURATION : duration(at);
    String trace = null;
    String out = null;
    String err = null;
    StringBuilder loose = new StringBuilder();
    int event = xml.next();
    while (event != XMLStreamConstants.END_ELEMENT) {
      if (event == XMLStreamConstants.START_ELEMENT) {
        switch (xml.getLocalName()) {
          case "stackTrace" -> trace = texts.text();
          case "system-out" -> out = texts.text();
          case "system-err" -> err = texts.text();
          default -> texts.skip();
        }
      } else if (event == XMLStreamConstants.ENTITY_REFERENCE) {
        throw texts.entity();
      } else if (xml.hasText() && loose.length() < limits.maxTextChars()) {
        loose.append(xml.getText());
      }
      event = xml.next();
    }
    if (trace == null && !loose.toString().isBlank()) {
      trace = texts.restored(loose.toString().strip());
    }
    return new Attempt(outcome, micros, List.of(new Failure(type, message, trace)), out, err);
  }

  private void properties() throws XMLStreamException {
    Map<String, String> found = new LinkedHashMap<>(properties);
    while (texts.nextChild()) {
      String key = xml.getAttributeValue(null, "name");
      String value = xml.getAttributeValue(null, "value");
      String text = texts.text();
      if (key == null) {
        continue;
      }
      if (found.size() >= limits.maxProperties()) {
        problems.add(
            "more than " + limits.maxProperties() + " properties of a case, line " + line());
        continue;
      }
      String known = value != null ? texts.restored(value) : text == null ? "" : text;
      found.merge(
          texts.bounded("property", key),
          known,
          (a, b) -> a.length() + b.length() > limits.maxNameChars() ? a : a + "\n" + b);
    }
    properties = found;
  }

  private @Nullable String joined(@Nullable String before, @Nullable String more) {
    if (before == null || more == null) {
      return before == null ? more : before;
    }
    if (before.length() + more.length() <= limits.maxTextChars()) {
      return before + "\n" + more;
    }
    problems.add(
        "output of a case longer than "
            + limits.maxTextChars()
            + " characters cut, line "
            + line());
    return before;
  }

  private List<Attempt> attempts() {
    Outcome outcome = outcome();
    Attempt own =
        new Attempt(outcome, duration, failures.isEmpty() ? List.of() : failures, stdout, stderr);
    if (flaky.isEmpty() && reruns.isEmpty()) {
      return List.of(own);
    }
    List<Attempt> all = new ArrayList<>(flaky);
    all.add(own);
    all.addAll(reruns);
    return all;
  }

  /** A failure and a skip together is a failure that was expected: a skip. */
  private Outcome outcome() {
    if (skipped) {
      String reason = failures.isEmpty() ? null : failures.get(0).message();
      return failed == null && reason != null && said.contains(reason)
          ? Outcome.NOT_REACHED
          : Outcome.SKIPPED;
    }
    if (failed != null) {
      return failed;
    }
    return byStatus == null ? Outcome.PASSED : byStatus;
  }

  /** The suite of the case: its class is one more level, unless the suite is named after it. */
  private SuitePath path(SuitePath suite) {
    String own = className == null ? "" : className;
    if (suite == lastSuite && own.equals(lastClass)) {
      return lastPath;
    }
    lastSuite = suite;
    lastClass = own;
    said.clear();
    if (classIsSuite && !own.isBlank()) {
      lastPath = SuitePath.ROOT.child(own);
      return lastPath;
    }
    lastPath = own.isBlank() || own.equals(suite.name()) ? suite : suite.child(own);
    return lastPath;
  }

  /**
   * Without a name, or named after its Java class, a failing case is the set-up of its suite. Some
   * frameworks call every test what they call its class: those are tests.
   */
  private boolean namesNoTest(SuitePath path) {
    if (name == null || name.isBlank()) {
      return true;
    }
    if (className == null || !className.equals(path.name())) {
      return false;
    }
    return CLASS_SET_UPS.contains(name)
        || (name.equals(className)
            && (classIsSuite
                || JAVA_CLASS.matcher(name).matches()
                || SCRIPT.matcher(name).matches()));
  }

  private int line() {
    return xml.getLocation().getLineNumber();
  }
}
