package org.vinecellar.core.formats.dotnet;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/** Reads xUnit.net's results, version 2 ("xUnit.net v2+ XML Format" of its documentation). */
public final class XunitReader extends DocumentReader {
  @Override
  public String format() {
    return "xunit-net-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("assemblies") || XmlRoot.name(head).equals("assembly");
  }

  @Override
  protected Parser parser(Source source) {
    return new XunitParser(source);
  }

  private static final class XunitParser extends DotnetParser {
    private Variant framework = Variant.NONE;

    XunitParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      if (XmlRoot.local(xml.getLocalName()).equals("assembly")) {
        assembly();
        return;
      }
      children(
          element -> {
            if (element.equals("assembly")) {
              assembly();
              return true;
            }
            return false;
          });
    }

    private void assembly() throws XMLStreamException {
      property("xunit.net", attribute("test-framework"));
      property("environment", attribute("environment"));
      framework = TargetFramework.of(attribute("target-framework"), attribute("name"));
      children(
          element -> {
            switch (element) {
              case "collection" ->
                  children(
                      inner -> {
                        if (inner.equals("test")) {
                          test();
                          return true;
                        }
                        return false;
                      });
              case "errors" ->
                  children(
                      error -> {
                        error();
                        return true;
                      });
              default -> {
                return false;
              }
            }
            return true;
          });
    }

    /** What went wrong around tests, such as the clean-up of a class. */
    private void error() throws XMLStreamException {
      String type = attribute("type");
      String name = attribute("name");
      List<Failure> failures = new ArrayList<>();
      children(
          element -> {
            if (element.equals("failure")) {
              failures.add(failure(attribute("exception-type")));
              return true;
            }
            return false;
          });
      Failure failure =
          failures.isEmpty()
              ? new Failure(type, "an error outside of any test", null)
              : failures.get(0);
      emitSetUp(
          SuitePath.ROOT.child(name == null ? String.valueOf(type) : name),
          new Failure(
              failure.type() == null ? type : failure.type(), failure.message(), failure.trace()));
    }

    private void test() throws XMLStreamException {
      String type = attribute("type");
      String name = attribute("name");
      String method = attribute("method");
      String result = String.valueOf(attribute("result"));
      String time = attribute("time");
      String file = attribute("source-file");
      String line = attribute("source-line");
      List<Failure> failures = new ArrayList<>();
      List<String> tags = new ArrayList<>();
      Map<String, String> properties = new LinkedHashMap<>();
      @Nullable String[] output = new String[1];
      children(
          element -> {
            switch (element) {
              case "failure" -> failures.add(failure(attribute("exception-type")));
              case "reason" -> failures.add(new Failure(null, texts.text(), null));
              case "output" -> output[0] = texts.text();
              case "traits" -> named(tags, properties);
              case "warnings" ->
                  children(
                      warning -> {
                        String text = texts.text();
                        if (text != null && properties.size() < limits.maxProperties()) {
                          properties.merge("warning", text, (a, b) -> a + "\n" + b);
                        }
                        return true;
                      });
              default -> {
                return false;
              }
            }
            return true;
          });
      SuitePath suite = SuitePath.ROOT.child(type == null ? "(no class)" : type);
      emit(
          TestResult.of(
                  TestId.ofPrinted(suite, shortName(name, type, method)).in(framework),
                  ResultKind.TEST,
                  List.of(
                      new Attempt(
                          outcome(result, failures), micros(time), failures, output[0], null)),
                  null,
                  properties,
                  file,
                  line != null && line.matches("[0-9]{1,9}") ? Integer.parseInt(line) : 0)
              .tagged(tags));
    }

    /** The default name repeats the class, which the suite names. */
    private static String shortName(
        @Nullable String name, @Nullable String type, @Nullable String method) {
      if (name == null) {
        return method == null ? "(test without a name)" : method;
      }
      return type != null && name.startsWith(type + ".") ? name.substring(type.length() + 1) : name;
    }

    private static Outcome outcome(String result, List<Failure> failures) {
      return switch (result) {
        case "Pass" -> Outcome.PASSED;
        case "Fail" ->
            failures.isEmpty()
                ? Outcome.FAILED
                : failures.get(0).type() == null
                    ? Outcome.FAILED
                    : sdkOutcome(failures.get(0).type());
        default -> Outcome.SKIPPED;
      };
    }

    /** Its own assertions are exceptions of a namespace of their own. */
    private static Outcome sdkOutcome(@Nullable String type) {
      return type != null && type.startsWith("Xunit.Sdk.")
          ? Outcome.FAILED
          : FailureKind.of(type, null);
    }
  }
}
