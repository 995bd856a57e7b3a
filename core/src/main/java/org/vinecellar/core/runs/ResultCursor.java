package org.vinecellar.core.runs;

import java.util.Optional;
import org.vinecellar.core.results.ResultId;

/** Where a page of results ended: among the failing or the others, and the place in the run. */
public record ResultCursor(boolean failing, ResultId id) {
  /** As one opaque word. */
  public String encode() {
    return (failing ? "f" : "o") + id;
  }

  /** Reads what {@link #encode} wrote; empty for anything else. */
  public static Optional<ResultCursor> decode(String text) {
    if (!text.matches("[fo].{1,20}")) {
      return Optional.empty();
    }
    boolean failing = text.charAt(0) == 'f';
    return ResultId.parse(text.substring(1)).map(id -> new ResultCursor(failing, id));
  }
}
