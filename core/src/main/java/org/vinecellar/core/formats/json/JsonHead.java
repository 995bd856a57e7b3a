package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.Set;
import org.vinecellar.core.formats.FileHead;

/**
 * The names at the top of a JSON document, as far as its first bytes tell.
 *
 * @param array whether it is an array; its first elements' names are told then
 * @param names of fields of the outermost object, and {@code outer/inner} for those one level in
 */
public record JsonHead(boolean array, Set<String> names) {
  private static final JsonHead NONE = new JsonHead(false, Set.of());

  /** Copies the set. */
  public JsonHead {
    names = Set.copyOf(names);
  }

  /** Of a document, or of the first line of several; without names when it is none. */
  public static JsonHead of(FileHead head) {
    String text = head.text();
    if (!text.startsWith("{") && !text.startsWith("[")) {
      return NONE;
    }
    boolean array = text.startsWith("[");
    Set<String> names = new HashSet<>();
    try (JsonParser parser = JsonFile.FACTORY.createParser(text)) {
      gather(parser, array ? 1 : 0, names);
    } catch (IOException e) {
      // The head ends in the middle of the document, as it should: what came before is known.
      return new JsonHead(array, names);
    }
    return new JsonHead(array, names);
  }

  /** Whether the outermost object has all of these. */
  public boolean has(String... wanted) {
    for (String name : wanted) {
      if (!names.contains(name)) {
        return false;
      }
    }
    return true;
  }

  private static void gather(JsonParser parser, int arrays, Set<String> names) throws IOException {
    Deque<String> path = new ArrayDeque<>();
    String name = "";
    int depth = -arrays;
    JsonToken token = parser.nextToken();
    while (token != null) {
      switch (token) {
        case START_OBJECT, START_ARRAY -> {
          depth++;
          path.push(name);
        }
        case END_OBJECT, END_ARRAY -> {
          depth--;
          name = path.pop();
          if (depth == 0 && path.isEmpty()) {
            return;
          }
        }
        case FIELD_NAME -> {
          name = parser.currentName();
          if (depth == 1) {
            names.add(name);
          } else if (depth == 2) {
            names.add(path.peek() + "/" + name);
          }
        }
        default -> {
          // values tell nothing about the kind
        }
      }
      token = parser.nextToken();
    }
  }
}
