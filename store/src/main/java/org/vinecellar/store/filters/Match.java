package org.vinecellar.store.filters;

import java.math.BigDecimal;
import java.time.OffsetDateTime;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.store.sql.Sql;

/**
 * How a value is compared, whatever column it stands in. A value that is null compares with
 * nothing: the condition is false, or null, which a filter takes for false.
 */
final class Match {
  private static final BigDecimal LONGEST = BigDecimal.valueOf(Long.MAX_VALUE);
  private static final BigDecimal MICROS = BigDecimal.valueOf(1_000_000);

  private final @Nullable Operator operator;
  private final Criterion.@Nullable Operand operand;

  private Match(@Nullable Operator operator, Criterion.@Nullable Operand operand) {
    this.operator = operator;
    this.operand = operand;
  }

  /** That there is a value. */
  static Match present() {
    return new Match(null, null);
  }

  static Match of(Criterion.Compares compares) {
    return new Match(compares.operator(), compares.operand());
  }

  boolean isPresent() {
    return operator == null;
  }

  /** Whether it is asked for one value. */
  boolean isEqual() {
    return operator == Operator.EQ;
  }

  /** Words for machines: as they are. */
  Condition name(Field<String> field) {
    return operator == null
        ? field.ne(DSL.inline(""))
        : compared(operator, field, DSL.val(words()), words());
  }

  /** Words for people: whatever the case. */
  Condition text(Field<String> field) {
    return operator == null
        ? field.ne(DSL.inline(""))
        : compared(operator, DSL.lower(field), DSL.lower(DSL.val(words())), words());
  }

  private static Condition compared(
      Operator operator, Field<String> field, Field<String> value, String words) {
    return switch (operator) {
      case EQ -> field.eq(value);
      case CO -> words.isEmpty() ? field.isNotNull() : field.contains(value);
      case SW -> field.startsWith(value);
      case EW -> field.endsWith(value);
      case GT -> field.collate(DSL.quotedName("C")).gt(value);
      case GE -> field.collate(DSL.quotedName("C")).ge(value);
      case LT -> field.collate(DSL.quotedName("C")).lt(value);
      case LE -> field.collate(DSL.quotedName("C")).le(value);
      case NE -> throw new IllegalStateException("said by not");
    };
  }

  /** The word of a choice. */
  String words() {
    return ((Criterion.Words) Objects.requireNonNull(operand)).text();
  }

  /** A number. */
  Condition number(Field<? extends Number> field) {
    if (operator == null) {
      return field.isNotNull();
    }
    BigDecimal number = ((Criterion.Amount) operand()).number();
    return isLong(number) && field.getDataType().isInteger()
        ? ordered(operator, field.coerce(Long.class), number.longValueExact())
        : ordered(operator, field.cast(SQLDataType.NUMERIC), number);
  }

  /** Compared as it is, an index may find it. */
  private static boolean isLong(BigDecimal number) {
    return number.stripTrailingZeros().scale() <= 0 && number.abs().compareTo(LONGEST) <= 0;
  }

  /** A length of time in a column of microseconds. */
  Condition micros(Field<Long> field) {
    if (operator == null) {
      return field.isNotNull();
    }
    return ordered(
        operator,
        field.cast(SQLDataType.NUMERIC),
        ((Criterion.Amount) operand()).number().multiply(MICROS));
  }

  /** A point in time. */
  Condition time(Field<OffsetDateTime> field) {
    return operator == null
        ? field.isNotNull()
        : ordered(operator, field, Sql.utc(((Criterion.Moment) operand()).time()));
  }

  /** Whether something is so; it always is or is not. */
  Condition flag(Condition so) {
    return operator == null || ((Criterion.Flag) operand()).set() ? flagOrThere(so) : so.not();
  }

  /** Whether something is so, which may be unknown. */
  Condition maybe(Field<Boolean> field) {
    return operator == null ? field.isNotNull() : field.eq(((Criterion.Flag) operand()).set());
  }

  private Condition flagOrThere(Condition so) {
    return operator == null ? DSL.trueCondition() : so;
  }

  private Criterion.Operand operand() {
    return Objects.requireNonNull(operand);
  }

  private static <T> Condition ordered(Operator operator, Field<T> field, T value) {
    return switch (operator) {
      case EQ -> field.eq(value);
      case GT -> field.gt(value);
      case GE -> field.ge(value);
      case LT -> field.lt(value);
      case LE -> field.le(value);
      default -> throw new IllegalStateException(operator + " goes with no " + field);
    };
  }
}
