package org.vinecellar.core.filters;

import java.util.EnumSet;
import java.util.Set;

/** What values an attribute has, and how they are compared. */
public enum Kind {
  /** Read by people: the case of letters does not matter. */
  TEXT("text", "\"fare\"", EnumSet.allOf(Operator.class)),
  /** Read by machines: compared as it is. */
  NAME("name", "\"main\"", EnumSet.allOf(Operator.class)),
  /** One of a few words. */
  CHOICE("choice", "\"failed\"", EnumSet.of(Operator.EQ, Operator.NE)),
  NUMBER("number", "3", ordered()),
  /** A length of time: seconds as a number, or an ISO 8601 duration. */
  SECONDS("length of time", "2.5", ordered()),
  /** ISO 8601: an instant, a day, or a duration back from now. */
  TIME("time", "\"-P7D\"", ordered()),
  FLAG("flag", "true", EnumSet.of(Operator.EQ, Operator.NE));

  private final String word;
  private final String example;
  private final Set<Operator> operators;

  Kind(String word, String example, EnumSet<Operator> operators) {
    this.word = word;
    this.example = example;
    this.operators = Set.copyOf(operators);
  }

  private static EnumSet<Operator> ordered() {
    return EnumSet.of(Operator.EQ, Operator.NE, Operator.GT, Operator.GE, Operator.LT, Operator.LE);
  }

  /** For people. */
  public String word() {
    return word;
  }

  /** A value as it is written. */
  public String example() {
    return example;
  }

  /** Those that make sense; whether there is a value at all can be asked of every kind. */
  public Set<Operator> operators() {
    return operators;
  }
}
