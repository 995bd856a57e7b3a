package org.vinecellar.core.formats;

import org.jspecify.annotations.Nullable;

/** A file that ends before it should; cases that came before its end are whole. */
public final class CutOffException extends UnreadableFileException {
  private static final long serialVersionUID = 1L;

  /**
   * @param where such as “at line 12”; empty when not known
   */
  public CutOffException(String where, @Nullable Throwable cause) {
    super(
        "ends too early"
            + (where.isEmpty() ? "" : " " + where)
            + "; the test run probably ended before its time, or the file was cut off when it was"
            + " copied",
        cause);
  }
}
