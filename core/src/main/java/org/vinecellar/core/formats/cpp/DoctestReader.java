package org.vinecellar.core.formats.cpp;

import javax.xml.stream.XMLStreamException;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.SuitePath;

/** Reads the XML of doctest. */
public final class DoctestReader extends DocumentReader {
  @Override
  public String format() {
    return "doctest-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("doctest");
  }

  @Override
  protected Parser parser(Source source) {
    return new DoctestParser(source);
  }

  private static final class DoctestParser extends CppParser {
    DoctestParser(Source source) {
      super(source);
    }

    @Override
    protected void root() throws XMLStreamException {
      SuitePath program = CatchReader.named(attribute("binary"));
      children(
          element -> {
            switch (element) {
              case "TestSuite" -> {
                String name = attribute("name");
                SuitePath suite = name == null ? program : program.child(name);
                children(
                    inner -> {
                      if (inner.equals("TestCase")) {
                        testCase(suite);
                        return true;
                      }
                      return false;
                    });
              }
              case "TestCase" -> testCase(program);
              case "OverallResultsTestCases" -> {
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

    /** Its console counts them as passed. */
    @Override
    protected Outcome asExpected() {
      return Outcome.PASSED;
    }
  }
}
