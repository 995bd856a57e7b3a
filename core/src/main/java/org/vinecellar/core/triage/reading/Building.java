package org.vinecellar.core.triage.reading;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One error while it is read. */
final class Building {
  static final int MAX_FRAMES = 120;
  private static final int USUAL_FRAMES = 30;
  private static final int MAX_MESSAGE = 8_000;

  final String type;
  final StringBuilder message = new StringBuilder();
  final List<Frame> frames = new ArrayList<>(USUAL_FRAMES);
  final int depth;
  boolean outermostFirst;

  /** So many of its places were told of before its message. */
  int before;

  /** A place that stands beside the error, and not in its trace. */
  @Nullable Frame place;

  Building(String type, String message, int depth) {
    this.type = type;
    this.message.append(message);
    this.depth = depth;
  }

  void say(String line) {
    if (message.length() < MAX_MESSAGE) {
      message
          .append(message.length() == 0 ? "" : "\n")
          .append(line.length() > 2_000 ? line.substring(0, 2_000) : line);
    }
  }

  /**
   * The innermost frames are what counts: of those that come outermost first, the last are kept.
   */
  void frame(Frame frame) {
    if (frames.size() < MAX_FRAMES) {
      frames.add(frame);
    } else if (outermostFirst) {
      frames.remove(0);
      frames.add(frame);
    }
  }

  /** Whether its message may still go on. */
  boolean isOpen() {
    return frames.size() == before;
  }

  /** Whether a frame of a file tells its function too. */
  private static boolean isNamedIn(Frame frame, Frame file) {
    return !frame.function().isEmpty() && frame.path().equals(file.path());
  }

  Thrown done() {
    List<Frame> ordered = frames;
    if (outermostFirst) {
      Collections.reverse(ordered);
    }
    if (place != null && !(ordered.size() > 0 && isNamedIn(ordered.get(0), place))) {
      ordered.add(place);
    }
    boolean panic = type.equals("Panic");
    return new Thrown(
        panic ? Head.typeOfPanic(message.toString()) : type, message.toString(), ordered);
  }

  /** Whether all that is known of where it was thrown is one file. */
  boolean isPlaceAlone() {
    return frames.size() == 1 && frames.get(0).qualified().isEmpty();
  }
}
