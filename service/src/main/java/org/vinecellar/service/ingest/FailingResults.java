package org.vinecellar.service.ingest;

import jakarta.enterprise.context.ApplicationScoped;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.runs.ResultQuery;
import org.vinecellar.core.runs.ResultRow;
import org.vinecellar.core.runs.RunStore;

/** What failed in the run that an upload went to, for the log of its job. */
@ApplicationScoped
public class FailingResults {
  private static final int MOST = 10;
  private static final String NEW = "change eq \"new failing\"";
  private static final String ALL =
      "outcome eq \"failed\" or outcome eq \"errored\" or setUp eq true";

  private final RunStore store;
  private final QuarantineStore quarantines;
  private final InstantSource clock;

  FailingResults(RunStore store, QuarantineStore quarantines, InstantSource clock) {
    this.store = store;
    this.quarantines = quarantines;
    this.clock = clock;
  }

  /**
   * What failed.
   *
   * @param rows up to ten, new ones first
   * @param quarantined how much of all of it fails no gate
   */
  record Failing(List<ResultRow> rows, QuarantineStore.InRun quarantined) {
    static final Failing NOTHING = new Failing(List.of(), QuarantineStore.InRun.NOTHING);
  }

  /** Nothing where all is well. */
  Failing of(int projectId, Receipt receipt) {
    Counts counts = receipt.run();
    if (counts.failed() + counts.errored() + counts.setUps() == 0) {
      return Failing.NOTHING;
    }
    return store
        .run(projectId, receipt.stream(), receipt.number())
        .map(run -> new Failing(of(projectId, run.id()), quarantines.in(projectId, run.id())))
        .orElse(Failing.NOTHING);
  }

  private List<ResultRow> of(int projectId, long runId) {
    List<ResultRow> rows = new ArrayList<>(find(projectId, runId, NEW));
    if (rows.size() < MOST) {
      find(projectId, runId, ALL).stream()
          .filter(row -> rows.stream().noneMatch(known -> known.id().equals(row.id())))
          .limit(MOST - rows.size())
          .forEach(rows::add);
    }
    return rows;
  }

  private List<ResultRow> find(int projectId, long runId, String filter) {
    return store.results(
        projectId,
        runId,
        new ResultQuery(
            Resolver.read(filter, Thing.RESULT, clock.instant()), null, Optional.empty(), MOST));
  }
}
