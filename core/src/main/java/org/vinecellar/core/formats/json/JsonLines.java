package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.TextLines;

/** Goes through a file in which every line is a JSON object, or should be. */
final class JsonLines {
  private static final ObjectMapper MAPPER = new ObjectMapper(JsonFile.FACTORY);

  private JsonLines() {}

  /**
   * Reads the whole file.
   *
   * @throws IOException when the stream itself fails
   */
  static void read(InputStream content, ReadLimits limits, LinesReader.Parser parser)
      throws IOException {
    TextLines lines = new TextLines(content, limits, JsonFile.MAX_TEXT);
    String line = lines.next();
    while (line != null) {
      if (!line.isBlank()) {
        JsonNode node = parsed(line);
        if (node != null) {
          parser.object(node, lines.number());
        } else {
          parser.other(line, lines.number());
        }
      }
      line = lines.next();
    }
  }

  /** The object that a line is; null when it is none. */
  static @Nullable JsonNode parsed(String line) {
    JsonNode node = line.stripLeading().startsWith("{") ? node(line) : null;
    return node != null && node.isObject() ? node : null;
  }

  /** The array that a line is; null when it is none. */
  static @Nullable JsonNode array(String line) {
    JsonNode node = line.stripLeading().startsWith("[") ? node(line) : null;
    return node != null && node.isArray() ? node : null;
  }

  private static @Nullable JsonNode node(String line) {
    try {
      return MAPPER.readTree(line);
    } catch (IOException e) {
      return null;
    }
  }
}
