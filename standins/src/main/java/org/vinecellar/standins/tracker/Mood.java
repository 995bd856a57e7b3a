package org.vinecellar.standins.tracker;

import java.util.Locale;
import java.util.Optional;

/** How the log behaves to programs; people who look at its pages do not notice. */
public enum Mood {
  WELL("well"),
  CLOSED_BOOK("lets nobody write in it"),
  HANGING("takes what it is asked, and never answers"),
  DOWN("answers 503"),
  BABBLING("answers what is no JSON"),
  RAMBLING("answers JSON that says something else"),
  ENDLESS("answers without an end"),
  FORGETFUL("does what it is asked, and breaks off before it says so"),
  ELSEWHERE("leads to another host");

  private final String words;

  Mood(String words) {
    this.words = words;
  }

  /** What it does then. */
  public String words() {
    return words;
  }

  static Optional<Mood> named(String name) {
    for (Mood one : values()) {
      if (one.name().equals(name.toUpperCase(Locale.ROOT))) {
        return Optional.of(one);
      }
    }
    return Optional.empty();
  }
}
