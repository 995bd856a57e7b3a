package org.vinecellar.core.formats.tap;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestResult;

/**
 * What a YAML block below a test point says. TAP leaves its keys open; these are the ones that
 * producers write. A block that is not YAML is kept as the text it is.
 */
final class TapDiagnostics {
  static final TapDiagnostics NONE = new TapDiagnostics(Map.of(), null);

  private static final String DURATION = "duration_ms: ";
  private static final Pattern MILLISECONDS = Pattern.compile("[0-9]{1,12}(?:\\.[0-9]{1,18})?");
  private static final int MAX_ALIASES = 10;
  private static final int MAX_CHARS = 1 << 16;
  private static final int MAX_VALUE = 4_000;

  private final Map<String, Object> values;
  private final @Nullable String raw;

  private TapDiagnostics(Map<String, Object> values, @Nullable String raw) {
    this.values = values;
    this.raw = raw;
  }

  /** Reads a block, without its first and last line. */
  static TapDiagnostics of(String block) {
    if (block.isBlank()) {
      return NONE;
    }
    // What most passing tests say, and all of it: no need to start a whole parser a million times.
    if (block.startsWith(DURATION)
        && MILLISECONDS.matcher(block.substring(DURATION.length())).matches()) {
      return new TapDiagnostics(Map.of("duration_ms", block.substring(DURATION.length())), null);
    }
    if (block.length() > MAX_CHARS) {
      return new TapDiagnostics(Map.of(), block.strip());
    }
    LoadSettings settings =
        LoadSettings.builder()
            .setMaxAliasesForCollections(MAX_ALIASES)
            .setCodePointLimit(MAX_CHARS)
            .setAllowDuplicateKeys(true)
            .build();
    try {
      if (new Load(settings).loadFromString(block) instanceof Map<?, ?> map) {
        Map<String, Object> values = new LinkedHashMap<>();
        map.forEach((key, value) -> values.put(String.valueOf(key), value == null ? "" : value));
        return new TapDiagnostics(values, null);
      }
    } catch (YamlEngineException | StackOverflowError e) {
      // The parser goes as deep as the block does; nothing of it is shared, so nothing is left half
      // done.
      return new TapDiagnostics(Map.of(), block.strip());
    }
    return new TapDiagnostics(Map.of(), block.strip());
  }

  private @Nullable String text(String key) {
    Object value = values.get(key);
    String text = value == null || value instanceof Map ? null : value.toString().strip();
    return text == null || text.isEmpty() ? null : text;
  }

  private @Nullable String first(String... keys) {
    for (String key : keys) {
      String text = text(key);
      if (text != null) {
        return text;
      }
    }
    return null;
  }

  /** Whether the producer says that a test never began, since what is around it failed. */
  boolean isNotReached() {
    return "cancelledByParent".equals(text("failureType"));
  }

  /** Whether it is in the manner of node's own runner. */
  boolean isOfNode() {
    return values.containsKey("duration_ms");
  }

  /** Microseconds, or {@link TestResult#NO_DURATION}. */
  long durationMicros() {
    String text = first("duration_ms", "duration");
    if (text == null || !MILLISECONDS.matcher(text).matches()) {
      return TestResult.NO_DURATION;
    }
    return Math.round(Double.parseDouble(text) * 1000);
  }

  /**
   * What went wrong.
   *
   * @param comments what stood in comments behind the point; null for nothing
   */
  Failure failure(@Nullable String comments) {
    String message = first("message", "error", "description");
    String stack = first("stack", "stacktrace", "at");
    String trace = raw != null ? raw : stack;
    if (comments != null) {
      trace = trace == null ? comments : trace + "\n" + comments;
    }
    return new Failure(first("name", "type", "severity"), message, trace);
  }

  /** What is told beyond failure and duration. */
  Map<String, String> properties(int most) {
    Map<String, String> properties = new LinkedHashMap<>();
    for (Map.Entry<String, Object> entry : values.entrySet()) {
      String text = entry.getValue().toString().strip();
      boolean told =
          switch (entry.getKey()) {
            case "duration_ms", "duration", "message", "error", "stack", "stacktrace" -> true;
            default -> text.isEmpty();
          };
      if (!told && properties.size() < most) {
        properties.put(
            entry.getKey(), text.length() > MAX_VALUE ? text.substring(0, MAX_VALUE) + "…" : text);
      }
    }
    return properties;
  }
}
