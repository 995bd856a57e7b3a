package org.vinecellar.core.formats;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;

/**
 * Takes apart what a runtime prints of a failure in one text: class, message, and the frames after
 * it, as in {@code java.lang.AssertionError: expected 3 \n\tat …}.
 */
public final class StackText {
  private static final Pattern FRAME = Pattern.compile("(?m)^\\s+at |^\\s*# \\S|^  File \"");
  private static final Pattern TYPE =
      Pattern.compile("^((?:[\\w$]+(?:\\.|::))*[A-Z][\\w$]*)(?: \\[\\w+\\])?(?:: |:?\\s*$)");
  private static final int TYPE_CHARS = 200;

  private StackText() {}

  /** The failure that such a text tells of. */
  public static Failure parsed(String text) {
    Matcher frame = FRAME.matcher(text);
    boolean framed = frame.find();
    String head = framed ? text.substring(0, frame.start()).strip() : text.strip();
    int lineEnd = head.indexOf('\n');
    String first = lineEnd < 0 ? head : head.substring(0, lineEnd);
    Matcher type = TYPE.matcher(first.substring(0, Math.min(first.length(), TYPE_CHARS)));
    String name = type.find() ? type.group(1) : null;
    String message = name == null ? head : head.substring(type.end()).strip();
    return new Failure(
        name, message.isEmpty() ? null : message, framed ? text.stripTrailing() : null);
  }

  /**
   * The same where the format tells type or message apart; what it tells is kept.
   *
   * @param text the whole of it; null when there is none
   */
  public static Failure of(@Nullable String type, @Nullable String message, @Nullable String text) {
    if (text == null) {
      return new Failure(type, message, null);
    }
    Failure parsed = parsed(text);
    return new Failure(
        type == null ? parsed.type() : type,
        message == null ? parsed.message() : message,
        parsed.trace() == null && message != null && !text.strip().equals(message.strip())
            ? text.stripTrailing()
            : parsed.trace());
  }
}
