package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A filter of results in two: what it asks of their runs alone, and the rest. A result fits the
 * filter if and only if its run fits the one and it fits the other, so that runs can be chosen
 * before any result is looked at.
 *
 * @param runs a filter of runs
 * @param rest a filter of results
 */
public record RunSide(Criterion runs, Criterion rest) {
  private static final Criterion OVERRULED =
      new Criterion.Compares(
          Attribute.RUN_OVERRULED, null, Operator.GT, new Criterion.Amount(BigDecimal.ZERO));

  /** Takes a filter of results apart. */
  public static RunSide of(Criterion results) {
    List<Criterion> runs = new ArrayList<>();
    List<Criterion> rest = new ArrayList<>();
    part(results, runs, rest);
    return new RunSide(all(runs), all(rest));
  }

  private static void part(Criterion one, List<Criterion> runs, List<Criterion> rest) {
    if (one instanceof Criterion.All all) {
      all.of().forEach(each -> part(each, runs, rest));
      return;
    }
    Criterion ofRun = ofRun(one);
    if (ofRun == null) {
      rest.add(one);
      if (asksForOverruled(one)) {
        runs.add(OVERRULED);
      }
    } else {
      runs.add(ofRun);
    }
  }

  /** Whether only a result whose outcome somebody set fits: few runs have one. */
  private static boolean asksForOverruled(Criterion one) {
    Attribute attribute =
        one instanceof Criterion.Compares compares
            ? compares.attribute()
            : one instanceof Criterion.Present present ? present.attribute() : null;
    return attribute == Attribute.RESULT_OVERRULED_BY
        || attribute == Attribute.RESULT_OVERRULED_AT
        || (attribute == Attribute.RESULT_OVERRULED
            && one instanceof Criterion.Compares compares
            && compares.operand().equals(new Criterion.Flag(true)));
  }

  private static Criterion all(List<Criterion> of) {
    return of.size() == 1 ? of.get(0) : new Criterion.All(of);
  }

  /** The same asked of the run; null when it asks something of the result. */
  private static @Nullable Criterion ofRun(Criterion one) {
    if (one instanceof Criterion.Within within) {
      return within.relation() == Relation.RESULT_RUN ? within.of() : null;
    }
    if (one instanceof Criterion.Present present) {
      return present.attribute() == Attribute.RESULT_LABEL
          ? new Criterion.Present(Attribute.RUN_LABEL, present.key())
          : null;
    }
    if (one instanceof Criterion.Compares compares) {
      return compares.attribute() == Attribute.RESULT_LABEL
          ? new Criterion.Compares(
              Attribute.RUN_LABEL, compares.key(), compares.operator(), compares.operand())
          : null;
    }
    if (one instanceof Criterion.Not not) {
      Criterion inside = ofRun(not.of());
      return inside == null ? null : new Criterion.Not(inside);
    }
    if (one instanceof Criterion.All all) {
      List<Criterion> each = ofRuns(all.of());
      return each == null ? null : new Criterion.All(each);
    }
    List<Criterion> each = ofRuns(((Criterion.Any) one).of());
    return each == null ? null : new Criterion.Any(each);
  }

  private static @Nullable List<Criterion> ofRuns(List<Criterion> of) {
    List<Criterion> runs = new ArrayList<>();
    for (Criterion one : of) {
      Criterion ofRun = ofRun(one);
      if (ofRun == null) {
        return null;
      }
      runs.add(ofRun);
    }
    return runs;
  }
}
