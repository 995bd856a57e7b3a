package org.vinecellar.core.formats.xml;

import com.fasterxml.aalto.UncheckedStreamException;
import com.fasterxml.aalto.stax.InputFactoryImpl;
import java.io.IOException;
import java.io.InputStream;
import java.util.Locale;
import javax.xml.stream.Location;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.vinecellar.core.formats.CutOffException;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Opens a file of XML: mends what is harmless and reports it, refuses document types, and says in
 * plain words what else is wrong.
 */
public final class XmlFile {
  private static final XMLInputFactory FACTORY = factory();

  /** Bytes of one text that are read beyond the characters that are kept, before it is cut. */
  private static final long MORE_THAN_SHOWN = 2L << 20;

  private XmlFile() {}

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

  /** Reads one document. */
  @FunctionalInterface
  public interface Grammar {
    /** Called on the start of the root element; reads to its end. */
    void root(XMLStreamReader2 xml, TextReader texts) throws XMLStreamException;
  }

  /**
   * Reads the whole file.
   *
   * @throws CutOffException when it ends too early
   * @throws UnreadableFileException when it is not well-formed, or passes a limit
   * @throws IOException when the stream itself fails
   */
  public static void read(
      InputStream content, ReadLimits limits, Problems problems, Grammar grammar)
      throws IOException {
    XmlSanitizer bytes =
        new XmlSanitizer(
            Utf8Source.of(content), limits.maxBytes(), limits.maxTextChars() + MORE_THAN_SHOWN);
    try {
      XMLStreamReader2 xml = (XMLStreamReader2) FACTORY.createXMLStreamReader(bytes, "UTF-8");
      document(xml, new TextReader(xml, bytes, limits), grammar);
    } catch (XMLStreamException e) {
      throw unreadable(e, bytes, limits);
    } catch (UncheckedStreamException e) {
      // Texts are tokenized when they are asked for, by methods that declare no failure.
      throw unreadable(
          e.getCause() instanceof XMLStreamException cause ? cause : new XMLStreamException(e),
          bytes,
          limits);
    }
    if (bytes.cut() > 0) {
      problems.add(
          bytes.cut()
              + (bytes.cut() == 1 ? " text" : " texts")
              + " of many megabytes cut; the file as it came has all of it");
    }
    if (bytes.replaced() > 0) {
      problems.add(
          bytes.replaced()
              + (bytes.replaced() == 1 ? " character" : " characters")
              + " that XML does not allow, or wrong UTF-8, replaced");
    }
  }

  private static void document(XMLStreamReader2 xml, TextReader texts, Grammar grammar)
      throws XMLStreamException {
    while (xml.hasNext()) {
      int event = xml.next();
      if (event == XMLStreamConstants.DTD) {
        throw new UnreadableFileException(
            "has a document type declaration (DOCTYPE) at line "
                + xml.getLocation().getLineNumber()
                + "; these are refused, since they can pull in other files: write the file without"
                + " it");
      }
      if (event == XMLStreamConstants.START_ELEMENT) {
        grammar.root(xml, texts);
      }
    }
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
      return new CutOffException(where.strip(), e);
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
