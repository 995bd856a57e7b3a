package org.vinecellar.core.attachments;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a file is, told by its content. What it claims to be is believed only where it cannot do
 * harm: between kinds of text.
 */
public final class MediaTypes {
  /** For what is not known. */
  public static final String UNKNOWN = "application/octet-stream";

  /** How many bytes are looked at. */
  public static final int HEAD = 4096;

  private static final Map<String, String> TEXT_BY_ENDING =
      Map.ofEntries(
          Map.entry("json", "application/json"),
          Map.entry("ndjson", "application/json"),
          Map.entry("xml", "application/xml"),
          Map.entry("html", "text/html"),
          Map.entry("htm", "text/html"),
          Map.entry("svg", "image/svg+xml"),
          Map.entry("md", "text/markdown"),
          Map.entry("csv", "text/csv"),
          Map.entry("har", "application/json"));

  private MediaTypes() {}

  /**
   * The media type of a file.
   *
   * @param claimed what the sender says; null when nothing
   * @param name with its ending
   * @param head its first {@link #HEAD} bytes, or fewer when it is shorter
   */
  public static String of(@Nullable String claimed, String name, byte[] head) {
    String byMagic = byMagic(head);
    if (byMagic != null) {
      return byMagic;
    }
    if (!isText(head)) {
      return UNKNOWN;
    }
    String text = new String(head, StandardCharsets.UTF_8).stripLeading();
    String start = text.substring(0, Math.min(text.length(), 300)).toLowerCase(Locale.ROOT);
    if (start.startsWith("<!doctype html") || start.startsWith("<html")) {
      return "text/html";
    }
    if (start.startsWith("<svg") || (start.startsWith("<?xml") && start.contains("<svg"))) {
      return "image/svg+xml";
    }
    String told = claimed == null ? "" : claimed.replaceFirst(";.*$", "").strip();
    if (TEXT_BY_ENDING.containsValue(told)) {
      return told;
    }
    String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    return TEXT_BY_ENDING.getOrDefault(ending, "text/plain");
  }

  private static @Nullable String byMagic(byte[] b) {
    if (has(b, 0, 0x89, 'P', 'N', 'G', 0x0D, 0x0A, 0x1A, 0x0A)) {
      return "image/png";
    }
    if (has(b, 0, 0xFF, 0xD8, 0xFF)) {
      return "image/jpeg";
    }
    if (has(b, 0, 'G', 'I', 'F', '8')) {
      return "image/gif";
    }
    if (has(b, 0, 'R', 'I', 'F', 'F') && has(b, 8, 'W', 'E', 'B', 'P')) {
      return "image/webp";
    }
    if (has(b, 0, 0x1A, 0x45, 0xDF, 0xA3)) {
      return "video/webm";
    }
    if (has(b, 4, 'f', 't', 'y', 'p')) {
      return "video/mp4";
    }
    if (has(b, 0, 'P', 'K', 3, 4) || has(b, 0, 'P', 'K', 5, 6)) {
      return "application/zip";
    }
    if (has(b, 0, 0x1F, 0x8B)) {
      return "application/gzip";
    }
    return has(b, 0, '%', 'P', 'D', 'F', '-') ? "application/pdf" : null;
  }

  private static boolean has(byte[] bytes, int at, int... wanted) {
    if (bytes.length < at + wanted.length) {
      return false;
    }
    for (int i = 0; i < wanted.length; i++) {
      if ((bytes[at + i] & 0xFF) != wanted[i]) {
        return false;
      }
    }
    return true;
  }

  /** UTF-8 without zeros; the last character may be cut. */
  private static boolean isText(byte[] head) {
    for (byte b : head) {
      if (b == 0) {
        return false;
      }
    }
    for (int cut = 0; cut < Math.min(4, head.length + 1); cut++) {
      try {
        StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(head, 0, head.length - cut));
        return true;
      } catch (CharacterCodingException e) {
        // Perhaps a character is cut at the end.
      }
    }
    return false;
  }

  /** Whether a browser may show it as it is: it can run nothing and reach nothing. */
  public static boolean isHarmless(String mediaType) {
    return switch (mediaType) {
      case "image/png", "image/jpeg", "image/gif", "image/webp", "video/mp4", "video/webm" -> true;
      default -> false;
    };
  }

  /** Whether it can be shown as plain text, whatever markup is in it. */
  public static boolean isText(String mediaType) {
    return mediaType.startsWith("text/")
        || mediaType.equals("application/json")
        || mediaType.equals("application/xml")
        || mediaType.equals("image/svg+xml");
  }
}
