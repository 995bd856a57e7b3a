package org.vinecellar.core.results;

import java.util.Optional;

/** The place of a result in its run: written {@code part-ordinal}, e.g. {@code 1-42}. */
public record ResultId(int part, int ordinal) {
  @Override
  public String toString() {
    return part + "-" + ordinal;
  }

  /** Reads what {@link #toString} wrote; empty for anything else. */
  public static Optional<ResultId> parse(String text) {
    if (!text.matches("[0-9]{1,7}-[0-9]{1,8}")) {
      return Optional.empty();
    }
    int dash = text.indexOf('-');
    return Optional.of(
        new ResultId(
            Integer.parseInt(text.substring(0, dash)), Integer.parseInt(text.substring(dash + 1))));
  }
}
