package org.vinecellar.client.http;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import org.jspecify.annotations.Nullable;

/**
 * Reads JSON as a tree without an object mapper: to make one takes as long as all else that a push
 * does before it sends.
 */
final class JsonTree {
  private static final JsonFactory FACTORY = new JsonFactory();
  private static final JsonNodeFactory NODES = JsonNodeFactory.instance;

  private JsonTree() {}

  /** Null when it is no JSON, or nothing at all. */
  static @Nullable JsonNode read(String text) {
    try (JsonParser parser = FACTORY.createParser(text)) {
      if (parser.nextToken() == null) {
        return null;
      }
      JsonNode tree = value(parser);
      return parser.nextToken() == null ? tree : null;
    } catch (IOException e) {
      return null;
    }
  }

  /** Depth is bounded by the parser. */
  private static JsonNode value(JsonParser parser) throws IOException {
    return switch (parser.currentToken()) {
      case START_OBJECT -> object(parser);
      case START_ARRAY -> array(parser);
      case VALUE_NUMBER_INT -> NODES.numberNode(parser.getBigIntegerValue().longValue());
      case VALUE_NUMBER_FLOAT -> NODES.numberNode(parser.getDoubleValue());
      case VALUE_TRUE -> NODES.booleanNode(true);
      case VALUE_FALSE -> NODES.booleanNode(false);
      case VALUE_NULL -> NODES.nullNode();
      default -> NODES.textNode(parser.getText());
    };
  }

  private static ObjectNode object(JsonParser parser) throws IOException {
    ObjectNode node = NODES.objectNode();
    while (parser.nextToken() == JsonToken.FIELD_NAME) {
      String name = parser.currentName();
      JsonToken unused = parser.nextToken();
      node.set(name, value(parser));
    }
    return node;
  }

  private static ArrayNode array(JsonParser parser) throws IOException {
    ArrayNode node = NODES.arrayNode();
    while (parser.nextToken() != JsonToken.END_ARRAY) {
      node.add(value(parser));
    }
    return node;
  }
}
