package org.vinecellar.core.filters;

import java.util.Locale;

/** How an attribute is compared with a value; the words of RFC 7644, table 3. */
public enum Operator {
  EQ("is"),
  NE("is not"),
  CO("contains"),
  SW("starts with"),
  EW("ends with"),
  GT("is more than, or later"),
  GE("is at least"),
  LT("is less than, or earlier"),
  LE("is at most");

  private final String meaning;

  Operator(String meaning) {
    this.meaning = meaning;
  }

  /** As it is written. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** For people. */
  public String meaning() {
    return meaning;
  }
}
