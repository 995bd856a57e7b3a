package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** A filter as it was written: a tree that knows nothing of what its names mean. Immutable. */
public sealed interface Filter {
  /** Asks the visitor what to do with this kind of filter. */
  <R> R accept(Visitor<R> visitor);

  /** The comparisons in it, whatever they stand in, in the order of its text. */
  default Stream<Filter> comparisons() {
    if (this instanceof All all) {
      return all.of().stream().flatMap(Filter::comparisons);
    }
    if (this instanceof Any any) {
      return any.of().stream().flatMap(Filter::comparisons);
    }
    if (this instanceof Not not) {
      return not.of().comparisons();
    }
    return this instanceof Within within ? within.filter().comparisons() : Stream.of(this);
  }

  /** One method a kind. */
  interface Visitor<R> {
    R all(All filter);

    R any(Any filter);

    R not(Not filter);

    R compared(Compared filter);

    R present(Present filter);

    R within(Within filter);
  }

  /** {@code … and …}: two or more, none of them an {@link All}. */
  record All(List<Filter> of) implements Filter {
    /** Copies the list. */
    public All {
      of = List.copyOf(of);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.all(this);
    }
  }

  /** {@code … or …}: two or more, none of them an {@link Any}. */
  record Any(List<Filter> of) implements Filter {
    /** Copies the list. */
    public Any {
      of = List.copyOf(of);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.any(this);
    }
  }

  /** {@code not (…)}. */
  record Not(Filter of) implements Filter {
    /** Checks nulls. */
    public Not {
      Objects.requireNonNull(of);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.not(this);
    }
  }

  /** {@code name eq value}. */
  record Compared(Path path, Operator operator, Value value, Marks marks) implements Filter {
    /** Checks nulls. */
    public Compared {
      Objects.requireNonNull(path);
      Objects.requireNonNull(operator);
      Objects.requireNonNull(value);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.compared(this);
    }
  }

  /** Where the operator and the value of a comparison stand; does not tell two apart. */
  record Marks(int operator, int value) {
    @Override
    public boolean equals(@Nullable Object other) {
      return other instanceof Marks;
    }

    @Override
    public int hashCode() {
      return 0;
    }
  }

  /** {@code name pr}: has a value that is not empty. */
  record Present(Path path) implements Filter {
    /** Checks nulls. */
    public Present {
      Objects.requireNonNull(path);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.present(this);
    }
  }

  /** {@code name[…]}: has one for which all of the inner filter holds. */
  record Within(Path path, Filter filter) implements Filter {
    /** Checks nulls. */
    public Within {
      Objects.requireNonNull(path);
      Objects.requireNonNull(filter);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
      return visitor.within(this);
    }
  }

  /**
   * The name of an attribute. The case of its parts does not matter to who looks it up.
   *
   * @param schema a URI before the name; null for none
   * @param sub the part after the dot; null for none
   * @param at where it begins in the text, from 0
   */
  record Path(@Nullable String schema, String name, @Nullable String sub, int at) {
    /** Checks nulls. */
    public Path {
      Objects.requireNonNull(name);
    }

    /** As it is written. */
    public String text() {
      return (schema == null ? "" : schema + ":") + name + (sub == null ? "" : "." + sub);
    }

    /** Where it stands does not tell two apart. */
    @Override
    public boolean equals(@Nullable Object other) {
      return other instanceof Path path && text().equals(path.text());
    }

    @Override
    public int hashCode() {
      return text().hashCode();
    }
  }

  /** What an attribute is compared with. */
  sealed interface Value {
    /** As it is written, which is as JSON writes it. */
    String text();
  }

  /** A text. */
  record Text(String value) implements Value {
    /** Checks nulls. */
    public Text {
      Objects.requireNonNull(value);
    }

    @Override
    public String text() {
      return JsonText.quoted(value);
    }
  }

  /** A number; equal to another by its value. */
  record Number(BigDecimal value) implements Value {
    /** With more zeros than these, powers of ten are easier to read. */
    private static final int LONG = 20;

    /** Takes the zeros off that say nothing. */
    public Number {
      value = value.stripTrailingZeros();
    }

    @Override
    public String text() {
      return Math.abs(value.scale()) <= LONG ? value.toPlainString() : value.toString();
    }
  }

  /** True or false. */
  record Bool(boolean value) implements Value {
    @Override
    public String text() {
      return Boolean.toString(value);
    }
  }

  /** No value at all. */
  record Nothing() implements Value {
    @Override
    public String text() {
      return "null";
    }
  }
}
