package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A filter whose names are known: what it asks of a {@link Thing}. Every part holds or does not; an
 * attribute without a value compares with nothing. Immutable.
 */
public sealed interface Criterion {
  /** Holds of everything. */
  Criterion EVERYTHING = new All(List.of());

  /** Each of them holds. */
  record All(List<Criterion> of) implements Criterion {
    /** Copies the list. */
    public All {
      of = List.copyOf(of);
    }
  }

  /** At least one holds. */
  record Any(List<Criterion> of) implements Criterion {
    /** Copies the list. */
    public Any {
      of = List.copyOf(of);
    }
  }

  /** It does not hold. */
  record Not(Criterion of) implements Criterion {}

  /**
   * There is a value that is not empty.
   *
   * @param key of a keyed attribute; null for any
   */
  record Present(Attribute attribute, @Nullable String key) implements Criterion {}

  /**
   * A value compares so.
   *
   * @param key of a keyed attribute
   * @param operator any but {@link Operator#NE}, which is said by {@link Not}
   */
  record Compares(Attribute attribute, @Nullable String key, Operator operator, Operand operand)
      implements Criterion {}

  /** There is one at the other end for which it holds. */
  record Within(Relation relation, Criterion of) implements Criterion {}

  /** What a value is compared with: of the attribute's kind. */
  sealed interface Operand {}

  /** Of a text, a name or a choice. */
  record Words(String text) implements Operand {}

  /** Of a number; a length of time in seconds. */
  record Amount(BigDecimal number) implements Operand {}

  /** Of a time, to the microsecond. */
  record Moment(Instant time) implements Operand {}

  /** Of a flag. */
  record Flag(boolean set) implements Operand {}

  /** Both, where one of them may be everything. */
  default Criterion and(Criterion other) {
    if (equals(EVERYTHING)) {
      return other;
    }
    return other.equals(EVERYTHING) ? this : new All(List.of(this, other));
  }
}
