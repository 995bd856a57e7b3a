package org.vinecellar.core.formats.json;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.Base64;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.results.TestResult;

/** Bounded values out of a tree. A value that is missing or of another kind counts as not told. */
public final class Values {
  private static final double MAX_MICROS = 100.0 * 366 * 86_400 * 1_000_000;

  private final ReadLimits limits;

  /** Values within those limits. */
  public Values(ReadLimits limits) {
    this.limits = limits;
  }

  /** A text, cut and marked where it is too long; null when there is none or it is blank. */
  public @Nullable String text(JsonNode node, String field) {
    return text(node.path(field));
  }

  /** The same of the node itself. */
  public @Nullable String text(JsonNode node) {
    if (!node.isValueNode() || node.isNull()) {
      return null;
    }
    String text = node.asText();
    return text.isBlank() ? null : cut(text);
  }

  /** A text that is cut and marked where it is too long. */
  public String cut(String text) {
    int most = limits.maxTextChars();
    return text.length() <= most
        ? text
        : text.substring(0, most) + "\n… cut here: longer than " + most + " characters";
  }

  /** A name; cut where it is longer than a name may be. */
  public String name(JsonNode node, String field, String otherwise) {
    String text = text(node, field);
    return text == null ? otherwise : name(text);
  }

  /** The same of a text. */
  public String name(String text) {
    int most = limits.maxNameChars();
    return text.length() <= most ? text : text.substring(0, most - 1) + "…";
  }

  /**
   * A number of some unit as microseconds.
   *
   * @param unit microseconds that one of the unit has
   * @return {@link TestResult#NO_DURATION} when it is no number, negative or beyond reason
   */
  public static long micros(JsonNode number, double unit) {
    double micros = number.isNumber() ? number.asDouble() * unit : -1;
    return micros >= 0 && micros <= MAX_MICROS ? Math.round(micros) : TestResult.NO_DURATION;
  }

  /** A point in time as text, or as milliseconds since 1970; null when it is none of reason. */
  public static @Nullable Instant time(JsonNode node) {
    if (node.isTextual()) {
      return Timestamps.parse(node.asText());
    }
    if (!node.isNumber()) {
      return null;
    }
    try {
      return Timestamps.sensible(Instant.ofEpochMilli(node.asLong()));
    } catch (DateTimeException e) {
      return null;
    }
  }

  /** Bytes of a text in base 64 (RFC 4648); null when it is none. */
  public static byte @Nullable [] base64(@Nullable String text) {
    if (text == null) {
      return null;
    }
    try {
      return Base64.getMimeDecoder().decode(text);
    } catch (IllegalArgumentException e) {
      return null;
    }
  }

  /** A whole number from 1; 0 when there is none. */
  public static int line(JsonNode node) {
    return node.isInt() && node.asInt() > 0 ? node.asInt() : 0;
  }
}
