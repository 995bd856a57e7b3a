package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.InputStream;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.TextLines;

/** Goes through a file in which every line is a JSON object, or should be. */
public final class JsonLines {
  private static final ObjectMapper MAPPER = new ObjectMapper(JsonFile.FACTORY);

  private JsonLines() {}

  /** Takes lines. */
  public interface Handler {
    /** A line that is an object. */
    void object(JsonNode object, int line);

    /** A line that is none, and not blank. */
    void other(String text, int line);
  }

  /**
   * Reads the whole file.
   *
   * @throws IOException when the stream itself fails
   */
  public static void read(InputStream content, ReadLimits limits, Handler handler)
      throws IOException {
    TextLines lines = new TextLines(content, limits, JsonFile.MAX_TEXT);
    String line = lines.next();
    while (line != null) {
      if (!line.isBlank()) {
        JsonNode node = parsed(line);
        if (node != null) {
          handler.object(node, lines.number());
        } else {
          handler.other(line, lines.number());
        }
      }
      line = lines.next();
    }
  }

  /** The object that a line is; null when it is none. */
  public static @org.jspecify.annotations.Nullable JsonNode parsed(String line) {
    if (!line.stripLeading().startsWith("{")) {
      return null;
    }
    try {
      JsonNode node = MAPPER.readTree(line);
      return node != null && node.isObject() ? node : null;
    } catch (IOException e) {
      return null;
    }
  }
}
