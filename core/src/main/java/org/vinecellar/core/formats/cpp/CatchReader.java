package org.vinecellar.core.formats.cpp;

import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.SuitePath;

/** Reads the XML of Catch2, versions 2 and 3. */
public final class CatchReader extends DocumentReader {
  @Override
  public String format() {
    return "catch2-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    String root = XmlRoot.name(head);
    return root.equals("Catch") || root.equals("Catch2TestRun");
  }

  @Override
  protected Parser parser(Source source) {
    return new CatchParser(source);
  }

  private static final class CatchParser extends CppParser {
    CatchParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      suite(named(attribute("name")));
    }

    private void suite(SuitePath suite) throws XMLStreamException {
      children(
          element -> {
            switch (element) {
              case "Group" -> suite(suite);
              case "TestCase" -> testCase(suite);
              case "OverallResultsCases" -> {
                counted();
                return false;
              }
              default -> {
                return false;
              }
            }
            return true;
          });
    }

    /** Its console counts them apart. */
    @Override
    protected Outcome asExpected() {
      return Outcome.SKIPPED;
    }
  }

  /** A suite named after the program, without its directory. */
  static SuitePath named(@Nullable String program) {
    String name = program == null ? "" : program.substring(program.lastIndexOf('/') + 1);
    return name.isEmpty() ? SuitePath.ROOT : SuitePath.ROOT.child(name);
  }
}
