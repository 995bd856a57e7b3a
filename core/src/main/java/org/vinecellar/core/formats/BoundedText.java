package org.vinecellar.core.formats;

import org.jspecify.annotations.Nullable;

/** Lines that are gathered until they are too many; then the text ends with a mark that says so. */
public final class BoundedText {
  private final int most;
  private final StringBuilder text = new StringBuilder();
  private boolean cut;

  /**
   * @param most characters that are kept
   */
  public BoundedText(int most) {
    this.most = most;
  }

  /** One more line, without its end. */
  public void add(String line) {
    if (cut) {
      return;
    }
    if (text.length() + line.length() < most) {
      text.append(line).append('\n');
    } else {
      cut = true;
      text.append("… cut here: longer than ").append(most).append(" characters\n");
    }
  }

  /** What was gathered, without the last line's end, and begins anew; null for nothing. */
  public @Nullable String take() {
    String taken = text.isEmpty() ? null : text.substring(0, text.length() - 1);
    text.setLength(0);
    cut = false;
    return taken;
  }
}
