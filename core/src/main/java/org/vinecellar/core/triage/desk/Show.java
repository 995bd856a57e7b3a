package org.vinecellar.core.triage.desk;

import java.util.Locale;
import java.util.Optional;

/** Which failure groups are looked at. */
public enum Show {
  /** Those with results that nobody explained, returned ones too. */
  UNSORTED,
  /** Those that were explained once, and fail again after that came to its end. */
  RETURNED,
  /** Those that were given to who asks. */
  MINE,
  /** Those of whose results all are explained. */
  EXPLAINED,
  /** Those whose tickets say what does not fit what is seen. */
  TICKETS,
  /** Every one. */
  ALL;

  /** The word in the API. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** Empty when no one has that word. */
  public static Optional<Show> ofWord(String word) {
    for (Show one : values()) {
      if (one.word().equals(word)) {
        return Optional.of(one);
      }
    }
    return Optional.empty();
  }
}
