package org.vinecellar.core.formats.testng;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.BoundedText;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads one {@code test-method}: a test, or a configuration method around tests. */
final class MethodParser {
  private static final String DEPENDS = "depends on not successfully finished methods";
  private static final int MAX_SAID = 200;

  private final XMLStreamReader2 xml;
  private final TextReader texts;
  private final ReadLimits limits;
  private final Problems problems;

  /** What failed configuration methods said; a skip that says the same was caused by one. */
  private final Set<String> said = new HashSet<>();

  // What the present method holds.
  private String name = "";
  private String status = "";
  private boolean configuration;
  private boolean retried;
  private long durationMicros;
  private @Nullable Instant started;
  private int line;
  private @Nullable Failure failure;
  private final BoundedText output;
  private final List<String> parameters = new ArrayList<>();
  private int parameterChars;
  private final Map<String, String> properties = new LinkedHashMap<>();

  MethodParser(XMLStreamReader2 xml, TextReader texts, ReadLimits limits, Problems problems) {
    this.xml = xml;
    this.texts = texts;
    this.limits = limits;
    this.problems = problems;
    this.output = new BoundedText(limits.maxTextChars());
  }

  /** The result; null for a configuration method that did not fail. */
  @Nullable TestResult read(SuitePath suite) throws XMLStreamException {
    clear();
    attributes();
    while (texts.nextChild()) {
      switch (xml.getLocalName()) {
        case "params" -> parameters();
        case "exception" -> exception();
        case "reporter-output" -> output();
        case "attributes" -> kept();
        default -> texts.skip();
      }
    }
    if (configuration) {
      return status.equals("FAIL") ? setUp(suite) : null;
    }
    String shown = parameters.isEmpty() ? null : "[" + String.join(", ", parameters) + "]";
    return result(TestId.of(suite, name, bounded(shown)), ResultKind.TEST, outcome());
  }

  /** Whether what was read last was tried once more. */
  boolean isTriedAgain() {
    return retried;
  }

  private void clear() {
    name = "(unnamed)";
    status = "";
    configuration = false;
    retried = false;
    durationMicros = TestResult.NO_DURATION;
    started = null;
    failure = null;
    output.take();
    parameters.clear();
    parameterChars = 0;
    properties.clear();
  }

  private void attributes() {
    line = xml.getLocation().getLineNumber();
    for (int i = 0; i < xml.getAttributeCount(); i++) {
      String value = xml.getAttributeValue(i);
      switch (xml.getAttributeLocalName(i)) {
        case "name" -> name = value.isBlank() ? name : texts.bounded("name", value);
        case "status" -> status = value;
        case "is-config" -> configuration = value.equals("true");
        case "retried" -> retried = value.equals("true");
        case "duration-ms" ->
            durationMicros =
                value.matches("[0-9]{1,12}")
                    ? Long.parseLong(value) * 1000
                    : TestResult.NO_DURATION;
        case "started-at" -> started = Timestamps.parse(value);
        case "description", "data-provider" ->
            properties.put(xml.getAttributeLocalName(i), texts.restored(value));
        default -> {
          // the signature names the instance, which is another one in each run
        }
      }
    }
  }

  private void parameters() throws XMLStreamException {
    while (texts.nextChild()) {
      String value = null;
      while (texts.nextChild()) {
        String text = texts.text();
        value = text == null ? value : text.strip();
      }
      if (parameterChars < limits.maxNameChars()) {
        parameters.add(value == null ? "null" : value);
        parameterChars += parameters.get(parameters.size() - 1).length() + 2;
      }
    }
  }

  private @Nullable String bounded(@Nullable String text) {
    return text == null || text.length() <= limits.maxNameChars()
        ? text
        : text.substring(0, limits.maxNameChars() - 1) + "…";
  }

  private void exception() throws XMLStreamException {
    String type = texts.name("class");
    String message = null;
    String trace = null;
    while (texts.nextChild()) {
      boolean stack = xml.getLocalName().endsWith("stacktrace");
      String text = texts.text();
      if (stack) {
        trace = text == null ? trace : text.strip();
      } else {
        message = text == null ? message : text.strip();
      }
    }
    failure = new Failure(type, message, trace);
  }

  private void output() throws XMLStreamException {
    while (texts.nextChild()) {
      String text = texts.text();
      if (text != null) {
        output.add(text.strip());
      }
    }
  }

  private void kept() throws XMLStreamException {
    while (texts.nextChild()) {
      String key = texts.name("name");
      String value = texts.text();
      if (key != null && properties.size() < limits.maxProperties()) {
        properties.put(key, value == null ? "" : value.strip());
      }
    }
  }

  private TestResult setUp(SuitePath suite) {
    if (failure != null && failure.message() != null && said.size() < MAX_SAID) {
      said.add(failure.message());
    }
    return result(TestId.of(suite, name + " (set-up)", null), ResultKind.SETUP, Outcome.ERRORED);
  }

  private Outcome outcome() {
    return switch (status) {
      case "PASS" -> Outcome.PASSED;
      case "FAIL" -> Outcome.FAILED;
      // An earlier try of a test that was tried again: it went wrong, or there were no other.
      case "SKIP" -> retried ? Outcome.FAILED : skipped();
      default -> {
        problems.add("status “" + status + "” at line " + line + " is not known");
        yield Outcome.ERRORED;
      }
    };
  }

  private Outcome skipped() {
    String message = failure == null ? null : failure.message();
    boolean kept = message != null && (said.contains(message) || message.contains(DEPENDS));
    return kept ? Outcome.NOT_REACHED : Outcome.SKIPPED;
  }

  private TestResult result(TestId id, ResultKind kind, Outcome outcome) {
    Attempt attempt =
        new Attempt(
            outcome,
            durationMicros,
            failure == null ? List.of() : List.of(failure),
            output.take(),
            null);
    return TestResult.of(id, kind, List.of(attempt), started, properties, null, 0);
  }
}
