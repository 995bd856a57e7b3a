package org.vinecellar.core.formats.junitxml;

import com.fasterxml.aalto.UncheckedStreamException;
import com.fasterxml.aalto.stax.InputFactoryImpl;
import java.io.IOException;
import java.io.InputStream;
import java.util.Locale;
import java.util.regex.Pattern;
import javax.xml.stream.Location;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Reads JUnit-style XML in all its dialects: the elements are the truth, headers are hints, and
 * what is not well-formed but harmless is kept and reported.
 */
public final class JUnitXmlReader implements ResultReader {
  private static final Pattern ROOT =
      Pattern.compile(
          "\\A(?:\\s+|<\\?.*?\\?>|<!--.*?-->|<!DOCTYPE[^>]*>)*+<(?:testsuites?)[\\s/>]",
          Pattern.DOTALL);
  private static final XMLInputFactory FACTORY = factory();

  private static XMLInputFactory factory() {
    InputFactoryImpl factory = new InputFactoryImpl();
    factory.configureForSpeed();
    factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, false);
    factory.setProperty(XMLInputFactory.IS_COALESCING, false);
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_REPLACING_ENTITY_REFERENCES, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    return factory;
  }

  @Override
  public String format() {
    return "junit-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    // A declaration in front of the root, such as a DOCTYPE with entities, gets its own message.
    return ROOT.matcher(head.text()).find()
        || (head.isMarkup() && head.text().contains("<!DOCTYPE testsuite"));
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    XmlSanitizer bytes = new XmlSanitizer(Utf8Source.of(content), limits.maxBytes());
    Problems problems = new Problems(handler, limits.maxProblems());
    XMLStreamReader2 xml = null;
    try {
      xml = (XMLStreamReader2) FACTORY.createXMLStreamReader(bytes, "UTF-8");
      new JUnitXmlParser(xml, bytes, limits, handler, problems).parse();
    } catch (XMLStreamException e) {
      throw unreadable(e, bytes, limits);
    } catch (UncheckedStreamException e) {
      // Texts are tokenized when they are asked for, by methods that declare no failure.
      throw unreadable(
          e.getCause() instanceof XMLStreamException cause ? cause : new XMLStreamException(e),
          bytes,
          limits);
    }
    if (bytes.replaced() > 0) {
      problems.add(
          bytes.replaced()
              + (bytes.replaced() == 1 ? " character" : " characters")
              + " that XML does not allow, or wrong UTF-8, replaced");
    }
    problems.close();
  }

  private static UnreadableFileException unreadable(
      XMLStreamException e, XmlSanitizer bytes, ReadLimits limits) throws IOException {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof XmlSanitizer.TooManyBytesException) {
        return new UnreadableFileException(
            "is larger than " + limits.maxBytes() + " bytes; split it into several files", e);
      }
      if (cause instanceof IOException io) {
        throw io;
      }
    }
    Location at = e.getLocation();
    String where = at == null ? "" : " at line " + at.getLineNumber();
    if (bytes.exhausted()
        && String.valueOf(e.getMessage()).toLowerCase(Locale.ROOT).contains("end-of-input")) {
      return new UnreadableFileException(
          "ends too early"
              + where
              + "; it was probably cut off while it was written or copied, so nothing of it was"
              + " taken",
          e);
    }
    String column = at == null ? "" : ", column " + at.getColumnNumber();
    return new UnreadableFileException(
        "is not well-formed XML" + where + column + ": " + reason(e), e);
  }

  private static String reason(XMLStreamException e) {
    String text = String.valueOf(e.getMessage());
    int end = text.indexOf('\n');
    String line = end < 0 ? text : text.substring(0, end);
    return line.length() > 200 ? line.substring(0, 200) + "…" : line;
  }
}
