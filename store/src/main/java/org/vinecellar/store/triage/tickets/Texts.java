package org.vinecellar.store.triage.tickets;

/** Texts of others, as columns hold them. */
final class Texts {
  private Texts() {}

  static String cut(String text, int most) {
    String clean = text.replace("\0", "");
    return clean.length() > most ? clean.substring(0, most) : clean;
  }
}
