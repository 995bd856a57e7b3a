package org.vinecellar.demo;

import java.util.List;
import java.util.function.UnaryOperator;

/** A suite of tests as a result file nests them. */
record Suite(String name, List<Case> cases) {
  static Suite of(String name, double seconds, String... tests) {
    return new Suite(
        name, java.util.Arrays.stream(tests).map(test -> Case.passed(test, seconds)).toList());
  }

  Suite each(UnaryOperator<Case> change) {
    return new Suite(name, cases.stream().map(change).toList());
  }

  Suite named(String other) {
    return new Suite(other, cases);
  }
}
