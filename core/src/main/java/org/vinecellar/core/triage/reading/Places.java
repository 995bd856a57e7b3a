package org.vinecellar.core.triage.reading;

import org.jspecify.annotations.Nullable;

/** Places in code, as lines of traces name them. */
public final class Places {
  /**
   * A place.
   *
   * @param two whether the line after it belongs to it
   */
  public record Place(Frame frame, boolean two) {}

  private Places() {}

  /**
   * @param line of a text
   * @param next the line after it; null at the end
   * @return null for a line that names none
   */
  public static @Nullable Place in(String line, @Nullable String next) {
    FrameReader.Read read = FrameReader.read(line, next);
    return read == null ? null : new Place(read.frame(), read.two());
  }
}
