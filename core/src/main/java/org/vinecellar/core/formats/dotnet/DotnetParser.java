package org.vinecellar.core.formats.dotnet;

import java.util.List;
import java.util.Map;
import javax.xml.stream.XMLStreamException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Seconds;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestResult;

/** What NUnit and xUnit.net write alike. */
abstract class DotnetParser extends DocumentReader.Parser {
  DotnetParser(DocumentReader.Source source) {
    super(source);
  }

  /** A failure with its message and trace; the type stands elsewhere. */
  protected final Failure failure(@Nullable String type) throws XMLStreamException {
    @Nullable String[] told = new String[2];
    children(
        element -> {
          String text = texts.text();
          if (element.equals("message")) {
            told[0] = text;
          } else if (element.equals("stack-trace")) {
            told[1] = text;
          }
          return true;
        });
    return new Failure(type, told[0], told[1]);
  }

  /** Named values; those of a category are tags. */
  protected final void named(List<String> tags, Map<String, String> properties)
      throws XMLStreamException {
    children(
        element -> {
          String name = attribute("name");
          String value = attribute("value");
          if (name != null && value != null && properties.size() < limits.maxProperties()) {
            if (name.equalsIgnoreCase("Category")) {
              tags.add(value);
            } else {
              properties.merge(name, value, (a, b) -> a + "\n" + b);
            }
          }
          return false;
        });
  }

  /** Seconds, or that nothing is told. */
  protected static long micros(@Nullable String seconds) {
    return seconds == null ? TestResult.NO_DURATION : Seconds.toMicros(seconds);
  }
}
