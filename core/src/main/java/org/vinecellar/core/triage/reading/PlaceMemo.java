package org.vinecellar.core.triage.reading;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/**
 * Places that were read before: the failures of a run print the same ones over and over. It
 * remembers only so many. Thread-safe.
 */
public final class PlaceMemo {
  private static final int MOST = 50_000;
  private static final int LONGEST = 400;

  private final Map<String, FrameReader.Read> known = new ConcurrentHashMap<>();

  /** A place that was read before; null for what was not. */
  FrameReader.@Nullable Read known(String line) {
    String key = key(line);
    return key == null ? null : known.get(key);
  }

  FrameReader.@Nullable Read read(String line, @Nullable String next) {
    String key = key(line);
    if (key == null) {
      return FrameReader.read(line, next);
    }
    FrameReader.Read read = known.get(key);
    if (read == null) {
      read = FrameReader.read(line, next);
      if (read != null && !read.two() && known.size() < MOST) {
        known.put(key, read);
      }
    }
    return read;
  }

  /**
   * A line as the JVM and Python print them without the number of its line, which tells nothing;
   * null for others.
   */
  private static @Nullable String key(String line) {
    int length = line.length();
    if (length < 10 || length > LONGEST) {
      return null;
    }
    int start = 0;
    while (start < length - 9 && line.charAt(start) <= ' ') {
      start++;
    }
    char first = line.charAt(start);
    if (first == 'F' && line.startsWith("File \"", start)) {
      int number = line.indexOf("\", line ", start);
      return number < 0 ? null : withoutNumber(line, start, number + 8);
    }
    if (first != 'a' || line.charAt(length - 1) != ')' || !line.startsWith("at ", start)) {
      return null;
    }
    int digits = length - 1;
    while (digits > start && Character.isDigit(line.charAt(digits - 1))) {
      digits--;
    }
    return digits < length - 1 && line.charAt(digits - 1) == ':'
        ? line.substring(start, digits)
        : line.substring(start);
  }

  private static String withoutNumber(String line, int start, int from) {
    int end = from;
    while (end < line.length() && Character.isDigit(line.charAt(end))) {
      end++;
    }
    return line.substring(start, from).concat(line.substring(end));
  }
}
