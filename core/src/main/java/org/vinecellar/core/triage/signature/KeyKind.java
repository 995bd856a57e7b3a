package org.vinecellar.core.triage.signature;

/** What the key of a signature names, the most telling first. */
public enum KeyKind {
  /** A component of the environment and its way of failing. */
  ENVIRONMENT(1, true),
  /** An error code of the application. */
  CODE(2, true),
  /** An object of a database, queue or store. */
  OBJECT(3, true),
  /** A request and its status. */
  ENDPOINT(4, true),
  /** A method of the product, and what was thrown in it. */
  FRAME(5, true),
  /** What a check names. */
  SUBJECT(6, true),
  /** A method that several tests share, in which a check failed. */
  SHARED(7, true),
  /** The words of the error itself. */
  TEXT(8, false),
  /** The test, with the words of its error. */
  TEST(9, false);

  private final int code;
  private final boolean strong;

  KeyKind(int code, boolean strong) {
    this.code = code;
    this.strong = strong;
  }

  /** The stored number; never changes. */
  public int code() {
    return code;
  }

  /** Whether decisions may be carried by it over tests. */
  public boolean isStrong() {
    return strong;
  }

  /** The word in the API and in exports. */
  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }

  /**
   * @throws IllegalArgumentException when no kind has that number
   */
  public static KeyKind ofCode(int code) {
    for (KeyKind kind : values()) {
      if (kind.code == code) {
        return kind;
      }
    }
    throw new IllegalArgumentException("no kind of key has the code " + code);
  }
}
