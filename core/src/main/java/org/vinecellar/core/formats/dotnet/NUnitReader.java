package org.vinecellar.core.formats.dotnet;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/** Reads NUnit 3's results ("Test Result XML Format" of its documentation). */
public final class NUnitReader extends DocumentReader {
  @Override
  public String format() {
    return "nunit3-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("test-run");
  }

  @Override
  protected Parser parser(Source source) {
    return new NUnitParser(source);
  }

  private static final class NUnitParser extends DotnetParser {
    private Variant framework = Variant.NONE;

    NUnitParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      children(element -> suiteOrCase(element, SuitePath.ROOT));
    }

    private boolean suiteOrCase(String element, SuitePath suite) throws XMLStreamException {
      switch (element) {
        case "test-suite" -> suite(suite);
        case "test-case" -> testCase(suite);
        default -> {
          return false;
        }
      }
      return true;
    }

    /** Assemblies and set-ups are no suites of their own; a fixture is known by its full name. */
    private void suite(SuitePath outer) throws XMLStreamException {
      String type = String.valueOf(attribute("type"));
      String name = attribute("fullname");
      String site = attribute("site");
      boolean failed = "Failed".equals(attribute("result"));
      if (type.equals("Assembly")) {
        framework = TargetFramework.of(null, name);
      }
      boolean isClass =
          type.equals("TestFixture")
              || type.equals("GenericFixture")
              || type.equals("SetUpFixture");
      SuitePath suite = isClass && name != null ? SuitePath.ROOT.child(name) : outer;
      Failure[] own = new Failure[1];
      children(
          element -> {
            if (element.equals("failure")) {
              own[0] = failure(null);
              return true;
            }
            if (element.equals("properties") || element.equals("environment")) {
              return false;
            }
            return suiteOrCase(element, suite);
          });
      boolean itself = "SetUp".equals(site) || "TearDown".equals(site) || "Test".equals(site);
      if (failed && itself && own[0] != null) {
        emitSetUp(suite.depth() == 0 && name != null ? suite.child(name) : suite, own[0]);
      }
    }

    private void testCase(SuitePath suite) throws XMLStreamException {
      TryParts parts = new TryParts(problems);
      String name = attribute("name");
      String className = attribute("classname");
      String result = String.valueOf(attribute("result"));
      String label = attribute("label");
      String site = attribute("site");
      String time = attribute("duration");
      String start = attribute("start-time");
      List<Failure> failures = new ArrayList<>();
      List<String> tags = new ArrayList<>();
      Map<String, String> properties = new LinkedHashMap<>();
      @Nullable String[] output = new String[1];
      children(
          element -> {
            switch (element) {
              case "failure", "reason" -> failures.add(failure(null));
              case "output" -> output[0] = texts.text();
              case "properties" -> named(tags, properties);
              case "attachments" -> attachments(parts);
              default -> {
                return false;
              }
            }
            return true;
          });
      if (label != null) {
        properties.put("label", label);
      }
      Attempt attempt =
          parts.attempt(
              outcome(result, label, site),
              micros(time),
              result.equals("Passed") ? List.of() : failures,
              output[0],
              null);
      SuitePath place = className == null ? suite : SuitePath.ROOT.child(className);
      emit(
          TestResult.of(
                  TestId.ofPrinted(place, name == null ? "(case without a name)" : name)
                      .in(framework),
                  ResultKind.TEST,
                  List.of(attempt),
                  start == null ? null : Timestamps.parse(start),
                  properties,
                  null,
                  0)
              .tagged(tags));
    }

    /** A case that failed at its parent's site was kept from running by the fixture's set-up. */
    private static Outcome outcome(String result, @Nullable String label, @Nullable String site) {
      return switch (result) {
        case "Passed", "Warning" -> Outcome.PASSED;
        case "Failed" ->
            "Parent".equals(site)
                ? Outcome.NOT_REACHED
                : label == null ? Outcome.FAILED : Outcome.ERRORED;
        default -> Outcome.SKIPPED;
      };
    }

    private void attachments(TryParts parts) throws XMLStreamException {
      children(
          attachment -> {
            @Nullable String[] told = new String[2];
            children(
                element -> {
                  String text = texts.text();
                  if (element.equals("filePath")) {
                    told[0] = text;
                  } else if (element.equals("description")) {
                    told[1] = text;
                  }
                  return true;
                });
            if (told[0] != null) {
              parts.attach(Attachment.at(told[0].strip(), told[1], null));
            }
            return true;
          });
    }
  }
}
