package org.vinecellar.core.triage.tickets;

import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Puts values where a text has <code>{name}</code>. */
public final class Template {
  private static final Pattern HOLE = Pattern.compile("\\{([a-z]+)}");
  private static final String PLAIN =
      "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~";

  private Template() {}

  /** As they are. */
  public static String filled(String template, Map<String, String> values) {
    return filled(template, values, UnaryOperator.identity());
  }

  /** In a URL, where nothing in a value can lead elsewhere: percent-encoded (RFC 3986, 2.3). */
  public static String url(String template, Map<String, String> values) {
    return filled(template, values, Template::encoded);
  }

  /** What a value holds in braces stands for nothing. */
  private static String filled(
      String template, Map<String, String> values, UnaryOperator<String> written) {
    return HOLE.matcher(template)
        .replaceAll(
            hole -> {
              String value = values.get(hole.group(1));
              return Matcher.quoteReplacement(value == null ? hole.group() : written.apply(value));
            });
  }

  private static String encoded(String value) {
    StringBuilder encoded = new StringBuilder();
    for (byte one : value.getBytes(StandardCharsets.UTF_8)) {
      char c = (char) (one & 0xff);
      if (PLAIN.indexOf(c) >= 0) {
        encoded.append(c);
      } else {
        encoded.append('%').append(String.format("%02X", (int) c));
      }
    }
    // A path of dots alone would lead up.
    return value.chars().allMatch(c -> c == '.')
        ? encoded.toString().replace(".", "%2E")
        : encoded.toString();
  }
}
