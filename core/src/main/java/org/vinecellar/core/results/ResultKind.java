package org.vinecellar.core.results;

/** Whether a result is of a test, or of the set-up that a suite of tests needs. */
public enum ResultKind {
  TEST(0),
  /** A failure that belongs to a suite as a whole, outside any one test. */
  SETUP(1);

  private final int code;

  ResultKind(int code) {
    this.code = code;
  }

  /** The stored number. */
  public int code() {
    return code;
  }

  /**
   * @throws IllegalArgumentException when no kind has that number
   */
  public static ResultKind ofCode(int code) {
    return switch (code) {
      case 0 -> TEST;
      case 1 -> SETUP;
      default -> throw new IllegalArgumentException("no result kind has the code " + code);
    };
  }
}
