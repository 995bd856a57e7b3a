package org.vinecellar.core.formats.cpp;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads the XML of Check, whose root is called as that of others. */
public final class CheckReader extends DocumentReader {
  @Override
  public String format() {
    return "check-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("testsuites")
        && XmlRoot.attributes(head).contains("check.sourceforge.net");
  }

  @Override
  protected Parser parser(Source source) {
    return new CheckParser(source);
  }

  private static final class CheckParser extends Parser {
    CheckParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      children(
          element -> {
            if (!element.equals("suite")) {
              return false;
            }
            SuitePath[] suite = {SuitePath.ROOT};
            children(inner -> suite(inner, suite));
            return true;
          });
    }

    private boolean suite(String element, SuitePath[] suite) throws XMLStreamException {
      switch (element) {
        case "title" -> {
          String title = texts.text();
          if (title != null && !title.isBlank()) {
            suite[0] = SuitePath.ROOT.child(texts.bounded("title", title.strip()));
          }
        }
        case "test" -> test(suite[0]);
        default -> {
          return false;
        }
      }
      return true;
    }

    private void test(SuitePath suite) throws XMLStreamException {
      String result = String.valueOf(attribute("result"));
      Map<String, String> told = new HashMap<>();
      children(
          element -> {
            String text = texts.text();
            if (text != null) {
              told.put(element, text.strip());
            }
            return true;
          });
      Outcome outcome =
          switch (result) {
            case "success" -> Outcome.PASSED;
            case "failure" -> Outcome.FAILED;
            default -> Outcome.ERRORED;
          };
      String group = told.get("description");
      SuitePath path =
          group == null || group.isEmpty()
              ? suite
              : suite.child(texts.bounded("description", group));
      String name = texts.bounded("id", told.getOrDefault("id", "(test without a name)"));
      String time = told.getOrDefault("duration", "");
      boolean fixture =
          outcome.isFailing() && (name.endsWith("_setup") || name.endsWith("_teardown"));
      Failure failure = new Failure(null, told.get("message"), null);
      String place = told.get("fn");
      emit(
          TestResult.of(
              fixture ? TestId.setUpOf(path) : TestId.of(path, name, loop(told.get("iteration"))),
              fixture ? ResultKind.SETUP : ResultKind.TEST,
              List.of(
                  new Attempt(
                      outcome,
                      Seconds.toMicros(time),
                      outcome == Outcome.PASSED ? List.of() : List.of(failure),
                      null,
                      null)),
              null,
              Map.of(),
              file(place),
              line(place)));
    }

    /** Loop tests tell of each round by its number; all others have round 0. */
    private static @Nullable String loop(@Nullable String iteration) {
      return iteration == null || iteration.equals("0") ? null : "[" + iteration + "]";
    }

    private static @Nullable String file(@Nullable String place) {
      int colon = place == null ? -1 : place.lastIndexOf(':');
      return place == null || colon <= 0 ? null : place.substring(0, colon);
    }

    private static int line(@Nullable String place) {
      String line = place == null ? "" : place.substring(place.lastIndexOf(':') + 1);
      return line.matches("[0-9]{1,9}") ? Integer.parseInt(line) : 0;
    }
  }
}
