package org.vinecellar.service.web;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Which bytes of a content are asked for (RFC 9110 §14): one range from a place on. Anything else
 * is answered with the whole, as the standard allows.
 *
 * @param to the last byte, itself included
 * @param partial whether it is less than was there, or was asked for as a range
 */
public record ByteRange(long from, long to, long size, boolean partial) {
  private static final Pattern RANGE = Pattern.compile("bytes=([0-9]{1,15})-([0-9]{0,15})");

  /** What a header asks of so many bytes. */
  public static ByteRange of(@Nullable String header, long size) {
    Matcher wanted = RANGE.matcher(header == null ? "" : header);
    if (!wanted.matches()) {
      return new ByteRange(0, size - 1, size, false);
    }
    long from = Long.parseLong(wanted.group(1));
    long to =
        wanted.group(2).isEmpty() ? size - 1 : Math.min(Long.parseLong(wanted.group(2)), size - 1);
    return from < size && from <= to
        ? new ByteRange(from, to, size, true)
        : new ByteRange(0, size - 1, size, false);
  }

  /** How many bytes. */
  public long count() {
    return to - from + 1;
  }

  /** The status of the answer. */
  public int status() {
    return partial ? 206 : 200;
  }

  /** For {@code Content-Range}. */
  public String header() {
    return "bytes " + from + "-" + to + "/" + size;
  }
}
