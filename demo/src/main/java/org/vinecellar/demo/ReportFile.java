package org.vinecellar.demo;

import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamWriter;
import org.jspecify.annotations.Nullable;

/** Writes suites as JUnit-style XML, as the frameworks of the company's projects would. */
final class ReportFile {
  private final XMLStreamWriter xml;
  private final Path shots;
  private int pictures;

  private ReportFile(XMLStreamWriter xml, Path shots) {
    this.xml = xml;
    this.shots = shots;
  }

  /** Where the pictures of a file are put. */
  static Path shotsOf(Path file) {
    return file.resolveSibling(file.getFileName() + ".shots");
  }

  static void write(Path file, Instant started, Map<String, String> properties, List<Suite> suites)
      throws IOException {
    try (Writer writer = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
      ReportFile report =
          new ReportFile(
              XMLOutputFactory.newDefaultFactory().createXMLStreamWriter(writer), shotsOf(file));
      report.document(started, properties, suites);
    } catch (XMLStreamException e) {
      throw new IOException(e);
    }
  }

  private void document(Instant started, Map<String, String> properties, List<Suite> suites)
      throws XMLStreamException, IOException {
    xml.writeStartDocument("UTF-8", "1.0");
    xml.writeStartElement("testsuites");
    if (!properties.isEmpty()) {
      xml.writeStartElement("properties");
      for (Map.Entry<String, String> property : properties.entrySet()) {
        xml.writeEmptyElement("property");
        xml.writeAttribute("name", property.getKey());
        xml.writeAttribute("value", property.getValue());
      }
      xml.writeEndElement();
    }
    Instant at = started;
    for (Suite suite : suites) {
      suite(suite, at);
      double seconds = suite.cases().stream().mapToDouble(Case::seconds).sum();
      at = at.plusMillis(Math.round(seconds * 1000));
    }
    xml.writeEndElement();
    xml.writeEndDocument();
    xml.close();
  }

  private void suite(Suite suite, Instant at) throws XMLStreamException, IOException {
    xml.writeStartElement("testsuite");
    xml.writeAttribute("name", suite.name());
    xml.writeAttribute("tests", Integer.toString(suite.cases().size()));
    xml.writeAttribute("timestamp", at.toString());
    for (Case one : suite.cases()) {
      testCase(suite, one);
    }
    xml.writeEndElement();
  }

  private void testCase(Suite suite, Case one) throws XMLStreamException, IOException {
    xml.writeStartElement("testcase");
    xml.writeAttribute("name", one.name());
    xml.writeAttribute("classname", suite.name());
    xml.writeAttribute("time", String.format(Locale.ROOT, "%.3f", one.seconds()));
    for (Case.Failure retry : one.retries()) {
      String kind = one.failure() == null ? "flaky" : "rerun";
      xml.writeStartElement(kind + (retry.error() ? "Error" : "Failure"));
      describe(retry);
      xml.writeStartElement("stackTrace");
      xml.writeCharacters(retry.trace());
      xml.writeEndElement();
      output(null, retry.screen());
      xml.writeEndElement();
    }
    Case.Failure failure = one.failure();
    if (failure != null) {
      xml.writeStartElement(failure.error() ? "error" : "failure");
      describe(failure);
      xml.writeCharacters(failure.trace());
      xml.writeEndElement();
    }
    String skipped = one.skipped();
    if (skipped != null) {
      xml.writeEmptyElement("skipped");
      xml.writeAttribute("message", skipped);
    }
    output(one.output(), failure == null ? one.screen() : failure.screen());
    xml.writeEndElement();
  }

  private void output(@Nullable String text, @Nullable Screen screen)
      throws XMLStreamException, IOException {
    String mark = screen == null ? null : "[[ATTACHMENT|" + picture(screen) + "]]";
    if (text != null || mark != null) {
      xml.writeStartElement("system-out");
      // The escape characters of terminal colours, as frameworks write them though XML forbids it.
      xml.writeCData(text == null ? mark : mark == null ? text : text + "\n" + mark);
      xml.writeEndElement();
    }
  }

  private String picture(Screen screen) throws IOException {
    Files.createDirectories(shots);
    String name = "screen-" + ++pictures + ".png";
    screen.draw(shots.resolve(name));
    return name;
  }

  private void describe(Case.Failure failure) throws XMLStreamException {
    // Line breaks in an attribute read as blanks; the trace has all of the message.
    xml.writeAttribute("message", failure.message().lines().findFirst().orElse(""));
    xml.writeAttribute("type", failure.type());
  }
}
