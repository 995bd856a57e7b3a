package org.vinecellar.store.ledger;

import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/** Counts of the results that an upload adds, suite by suite; negative where it takes away. */
public final class SuiteCounts {
  private final Map<SuitePath, Counts> own = new HashMap<>();

  /** What one result adds. */
  public static Counts of(TestResult result) {
    boolean retried = result.attempts().size() > 1 && result.kind() == ResultKind.TEST;
    return Counts.NONE.add(result.kind(), result.outcome(), 1).addRetried(retried ? 1 : 0);
  }

  public Set<SuitePath> suites() {
    return own.keySet();
  }

  public Counts of(SuitePath suite) {
    return own.getOrDefault(suite, Counts.NONE);
  }

  public void set(SuitePath suite, Counts counts) {
    own.put(suite, counts);
  }

  /** Each suite with all that is inside it; without the root. */
  public Map<SuitePath, Counts> rolledUp() {
    Map<SuitePath, Counts> sums = new HashMap<>();
    own.forEach(
        (suite, counts) -> {
          for (SuitePath at = suite; at != null && at.depth() > 0; at = at.parent()) {
            sums.merge(at, counts, Counts::plus);
          }
        });
    return sums;
  }

  public Counts total() {
    return own.values().stream().reduce(Counts.NONE, Counts::plus);
  }
}
