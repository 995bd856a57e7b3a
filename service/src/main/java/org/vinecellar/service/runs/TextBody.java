package org.vinecellar.service.runs;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;

/**
 * A text that may be long: its beginning, and how long the whole is. The whole comes with {@code
 * full=true}.
 */
@Schema(name = "LongText")
public record TextBody(String text, int length, boolean cut) {
  /** Characters that a page shows at once. */
  static final int SHOWN = 64 * 1024;

  static @Nullable TextBody of(@Nullable String text, boolean full) {
    if (text == null) {
      return null;
    }
    if (full || text.length() <= SHOWN) {
      return new TextBody(text, text.length(), false);
    }
    int end = Character.isHighSurrogate(text.charAt(SHOWN - 1)) ? SHOWN - 1 : SHOWN;
    return new TextBody(text.substring(0, end), text.length(), true);
  }
}
