package org.vinecellar.core.edits;

/** What a note is about: a run of its project, or a test. */
public record Subject(Kind kind, long id) {
  /** The kinds; the codes are stored and never change. */
  public enum Kind {
    RUN(0),
    TEST(1);

    private final int code;

    Kind(int code) {
      this.code = code;
    }

    /** The stored number. */
    public int code() {
      return code;
    }
  }

  /** That run. */
  public static Subject run(long id) {
    return new Subject(Kind.RUN, id);
  }

  /** That test. */
  public static Subject test(long id) {
    return new Subject(Kind.TEST, id);
  }
}
