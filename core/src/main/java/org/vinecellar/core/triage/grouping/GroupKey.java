package org.vinecellar.core.triage.grouping;

import java.util.Objects;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.signature.Signature;

/**
 * Something by which a group is found.
 *
 * @param hash of the kind and what it says
 */
public record GroupKey(Use use, Key128 hash) {
  /** What a key is for; the codes are stored and never change. */
  public enum Use {
    /** Results with it belong to the group. */
    KEY(0),
    /** Results that know less may be joined by it. */
    OFFER(1),
    /** The group itself knows less, and would be joined by it. */
    ASK(2),
    /** Errors with like words have it. */
    BAND(3),
    /** Results with it were found to be like the group; they are so in later runs, too. */
    LIKE(4);

    private final int code;

    Use(int code) {
      this.code = code;
    }

    /** The stored number. */
    public int code() {
      return code;
    }
  }

  /** Checks nulls. */
  public GroupKey {
    Objects.requireNonNull(use);
    Objects.requireNonNull(hash);
  }

  /** By what the groups of a test are found, whatever parameters it has. */
  public static GroupKey ofTest(TestId test) {
    return of(Use.OFFER, Signature.ofTest(test));
  }

  static GroupKey of(Use use, String text) {
    return new GroupKey(use, Key128.of(text));
  }

  static GroupKey band(long band) {
    return new GroupKey(Use.BAND, new Key128(3, band));
  }
}
