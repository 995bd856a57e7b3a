package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.util.JsonParserDelegate;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.MissingNode;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Walks through a document of any size. Stands on one value; what a visitor does not read of it is
 * passed over.
 */
public final class JsonCursor {
  private static final ObjectMapper MAPPER = new ObjectMapper(JsonFile.FACTORY);

  private static final int MAX_TOKENS = 1_000_000;

  private final Bounded parser;
  private boolean taken;

  JsonCursor(JsonParser parser) {
    this(parser, MAX_TOKENS);
  }

  /**
   * On a parser that stands on the value to walk through, or will.
   *
   * @param maxTokens of one tree
   */
  public JsonCursor(JsonParser parser, int maxTokens) {
    this.parser = new Bounded(parser, maxTokens);
  }

  /** Takes the fields of an object. */
  @FunctionalInterface
  public interface Fields {
    /** Called with the cursor on the value of that field. */
    void field(String name) throws IOException;
  }

  /** Takes the elements of an array. */
  @FunctionalInterface
  public interface Elements {
    /** Called with the cursor on an element. */
    void element() throws IOException;
  }

  /** Goes through the object that the cursor stands on; does nothing on any other value. */
  public void object(Fields fields) throws IOException {
    if (parser.currentToken() != JsonToken.START_OBJECT) {
      return;
    }
    while (parser.nextToken() == JsonToken.FIELD_NAME) {
      String name = parser.currentName();
      parser.nextToken();
      taken = false;
      fields.field(name);
      pass();
    }
    taken = true;
  }

  /** Goes through the array that the cursor stands on; does nothing on any other value. */
  public void array(Elements elements) throws IOException {
    if (parser.currentToken() != JsonToken.START_ARRAY) {
      return;
    }
    while (parser.nextToken() != JsonToken.END_ARRAY && parser.currentToken() != null) {
      taken = false;
      elements.element();
      pass();
    }
    taken = true;
  }

  /**
   * The value that the cursor stands on as a tree of bounded size.
   *
   * @throws UnreadableFileException when it is too large
   */
  public JsonNode tree() throws IOException {
    parser.begin();
    JsonNode node = MAPPER.readTree(parser);
    taken = true;
    return node == null ? MissingNode.getInstance() : node;
  }

  private void pass() throws IOException {
    if (!taken) {
      parser.unbounded();
      parser.skipChildren();
    }
  }

  /** Reads to the end, so that what is ill-formed there is noticed. */
  void skipRest() throws IOException {
    parser.unbounded();
    while (parser.nextToken() != null) {
      // only its form matters
    }
  }

  /** Counts what one tree takes. */
  private static final class Bounded extends JsonParserDelegate {
    private static final long MAX_CHARS = 2L * JsonFile.MAX_TEXT;

    private final int maxTokens;
    private int tokensLeft = Integer.MAX_VALUE;
    private long charsLeft = Long.MAX_VALUE;

    Bounded(JsonParser parser, int maxTokens) {
      super(parser);
      this.maxTokens = maxTokens;
    }

    void begin() {
      tokensLeft = maxTokens;
      charsLeft = MAX_CHARS;
    }

    void unbounded() {
      tokensLeft = Integer.MAX_VALUE;
      charsLeft = Long.MAX_VALUE;
    }

    @Override
    public JsonToken nextToken() throws IOException {
      JsonToken token = super.nextToken();
      if (tokensLeft != Integer.MAX_VALUE) {
        tokensLeft--;
        if (token == JsonToken.VALUE_STRING) {
          charsLeft -= getTextLength();
        }
        if (tokensLeft < 0 || charsLeft < 0) {
          throw new UnreadableFileException(
              "holds one entry that is too large to be read, before line "
                  + currentLocation().getLineNr()
                  + "; write results of fewer tests into one file");
        }
      }
      return token;
    }

    @Override
    public @Nullable String nextFieldName() throws IOException {
      return nextToken() == JsonToken.FIELD_NAME ? currentName() : null;
    }

    @Override
    public @Nullable String nextTextValue() throws IOException {
      return nextToken() == JsonToken.VALUE_STRING ? getText() : null;
    }
  }
}
