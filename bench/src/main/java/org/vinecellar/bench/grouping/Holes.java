package org.vinecellar.bench.grouping;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.jspecify.annotations.Nullable;

/** Fills the holes of a face with what differs from result to result. */
final class Holes {
  private static final List<String> AGENTS =
      List.of(
          "/home/runner/work/skerrow",
          "/builds/ferry/booking",
          "/var/lib/agent-7/ws/skerrow",
          "C:\\agent\\_work\\3\\s",
          "/tmp/build-81ab/src",
          "/app",
          "/Users/ci/skerrow");
  private static final List<DateTimeFormatter> TIMES =
      List.of(
              "yyyy-MM-dd'T'HH:mm:ss.SSS'Z'",
              "yyyy-MM-dd HH:mm:ss,SSS",
              "EEE MMM dd HH:mm:ss 'UTC' yyyy",
              "dd/MM/yyyy HH:mm",
              "MMM d, yyyy h:mm:ss a",
              "yyyyMMdd'T'HHmmss'Z'")
          .stream()
          .map(p -> DateTimeFormatter.ofPattern(p, Locale.ENGLISH).withZone(ZoneOffset.UTC))
          .toList();

  private final Random random;
  private final Map<String, String> said = new java.util.HashMap<>();

  Holes(Random random) {
    this.random = random;
  }

  /**
   * @param row of the cause, holes {1} and on
   * @param names of the test
   */
  String fill(String text, String[] row, Map<String, String> names) {
    String chosen = choose(text);
    StringBuilder out = new StringBuilder(chosen.length() + 64);
    int i = 0;
    while (i < chosen.length()) {
      char c = chosen.charAt(i);
      int end = c == '{' ? chosen.indexOf('}', i) : -1;
      String hole = end > i && end - i < 20 ? chosen.substring(i + 1, end) : "";
      String value = hole.isEmpty() ? null : value(hole, row, names);
      if (value == null) {
        out.append(c);
        i++;
      } else {
        out.append(value);
        i = end + 1;
      }
    }
    return out.toString();
  }

  /** One of several, between marks; the innermost first. */
  private String choose(String text) {
    String now = text;
    int open = now.lastIndexOf('«');
    while (open >= 0) {
      int close = now.indexOf('»', open);
      String[] parts = now.substring(open + 1, close).split("¦", -1);
      now = now.substring(0, open) + parts[random.nextInt(parts.length)] + now.substring(close + 1);
      open = now.lastIndexOf('«');
    }
    return now;
  }

  private @Nullable String value(String hole, String[] row, Map<String, String> names) {
    if (hole.length() == 1 && Character.isDigit(hole.charAt(0))) {
      int at = hole.charAt(0) - '1';
      String own = at >= 0 && at < row.length ? row[at] : null;
      return own != null && own.indexOf('{') >= 0 ? fill(own, new String[0], names) : own;
    }
    String name = names.get(hole);
    if (name != null) {
      return name;
    }
    // What a result says twice is the same both times.
    boolean same =
        List.of("id", "ref", "uuid", "time", "agent", "ip", "port", "pod").contains(hole);
    String made = same ? said.computeIfAbsent(hole, this::fresh) : fresh(hole);
    return made.isEmpty() ? null : made;
  }

  /** Another result begins. */
  void begin() {
    said.clear();
  }

  private String fresh(String hole) {
    return switch (hole) {
      case "int" -> Integer.toString(random.nextInt(900) + 2);
      case "big" ->
          String.format(
              Locale.ENGLISH,
              random.nextBoolean() ? "%d" : "%,d",
              random.nextInt(9_000_000) + 1_000);
      case "id" -> Integer.toString(random.nextInt(900_000) + 10_000);
      case "ref" -> "SK-" + (random.nextInt(90_000) + 10_000);
      case "line" -> Integer.toString(random.nextInt(380) + 12);
      case "col" -> Integer.toString(random.nextInt(70) + 3);
      case "port" -> Integer.toString(random.nextInt(20_000) + 32_000);
      case "ms" -> Integer.toString(random.nextInt(29_000) + 900);
      case "dec" -> String.format(Locale.ENGLISH, "%.2f", random.nextDouble() * 300);
      case "hex" -> Integer.toHexString(random.nextInt() | 0x10000000);
      case "hex12" -> "0x7f" + String.format("%010x", random.nextLong() & 0xffffffffffL);
      case "uuid" -> new java.util.UUID(random.nextLong(), random.nextLong()).toString();
      case "ip" ->
          "10." + random.nextInt(200) + "." + random.nextInt(200) + "." + (random.nextInt(200) + 2);
      case "n" -> Integer.toString(random.nextInt(9) + 1);
      case "pod" ->
          Integer.toHexString(random.nextInt() | 0x10000000).substring(0, 8) + "f-" + word(5);
      case "agent" -> AGENTS.get(random.nextInt(AGENTS.size()));
      case "word" -> word(6);
      case "time" ->
          TIMES
              .get(random.nextInt(TIMES.size()))
              .format(Instant.ofEpochSecond(1_780_000_000L + random.nextInt(9_000_000)));
      default -> "";
    };
  }

  private String word(int length) {
    StringBuilder word = new StringBuilder();
    for (int i = 0; i < length; i++) {
      word.append((char) ('a' + random.nextInt(26)));
    }
    return word.toString();
  }
}
