package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.core.exc.StreamConstraintsException;
import com.fasterxml.jackson.core.io.JsonEOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import org.vinecellar.core.formats.CutOffException;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.TextSource;
import org.vinecellar.core.formats.UnreadableFileException;

/** Opens a file that is one JSON document (RFC 8259), and says in plain words what is wrong. */
public final class JsonFile {
  /** The longest text that is taken in at all; embedded files are the longest there are. */
  static final int MAX_TEXT = 12 << 20;

  /** With limits on everything that memory depends on. */
  public static final JsonFactory FACTORY =
      JsonFactory.builder()
          .disable(JsonFactory.Feature.INTERN_FIELD_NAMES)
          .disable(StreamReadFeature.INCLUDE_SOURCE_IN_LOCATION)
          .streamReadConstraints(
              StreamReadConstraints.builder()
                  .maxNestingDepth(ReadLimits.DEFAULT.maxDepth() * 2)
                  .maxStringLength(MAX_TEXT)
                  .maxNameLength(ReadLimits.DEFAULT.maxNameChars())
                  .build())
          .build();

  private JsonFile() {}

  /** Reads one document. */
  @FunctionalInterface
  public interface Grammar {
    /** Called on the outermost value. */
    void read(JsonCursor document) throws IOException;
  }

  /**
   * Reads the whole file.
   *
   * @throws CutOffException when it ends too early
   * @throws UnreadableFileException when it is not well-formed, or passes a limit
   * @throws IOException when the stream itself fails
   */
  public static void read(InputStream content, ReadLimits limits, Grammar grammar)
      throws IOException {
    try (Reader text = TextSource.open(content, limits);
        JsonParser parser = FACTORY.createParser(text)) {
      parser.nextToken();
      JsonCursor document = new JsonCursor(parser);
      grammar.read(document);
      document.skipRest();
    } catch (JsonProcessingException e) {
      throw unreadable(e);
    }
  }

  private static UnreadableFileException unreadable(JsonProcessingException e) {
    JsonLocation at = e.getLocation();
    String where = at == null ? "" : " at line " + at.getLineNr();
    if (e instanceof JsonEOFException) {
      return new CutOffException(where.strip(), e);
    }
    if (e instanceof StreamConstraintsException) {
      return new UnreadableFileException(
          "passes a limit" + where + ": " + firstLine(e.getOriginalMessage()), e);
    }
    String column = at == null ? "" : ", column " + at.getColumnNr();
    return new UnreadableFileException(
        "is not well-formed JSON" + where + column + ": " + firstLine(e.getOriginalMessage()), e);
  }

  private static String firstLine(String message) {
    int end = message.indexOf('\n');
    String line = end < 0 ? message : message.substring(0, end);
    return line.length() > 200 ? line.substring(0, 200) + "…" : line;
  }
}
