package org.vinecellar.store.sql;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.List;
import java.util.Map;
import org.jooq.JSONB;

/** Small values in JSON columns. */
public final class Json {
  private static final ObjectMapper MAPPER = new ObjectMapper();

  private Json() {}

  /** Any map, list or record of plain values. */
  public static String text(Object value) {
    try {
      return MAPPER.writeValueAsString(value);
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("plain values always have a JSON form", e);
    }
  }

  /** As a column's value. */
  public static JSONB of(Object value) {
    return JSONB.valueOf(text(value));
  }

  /** A map of words. */
  public static Map<String, String> map(JSONB json) {
    return read(json.data(), new TypeReference<>() {});
  }

  /** A list of words. */
  public static List<String> list(JSONB json) {
    return read(json.data(), new TypeReference<>() {});
  }

  /** Any value that {@link #text} wrote. */
  public static <T> T read(String json, TypeReference<T> type) {
    try {
      return MAPPER.readValue(json, type);
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a JSON column does not hold what was put in", e);
    }
  }
}
