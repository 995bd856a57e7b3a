package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.List;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.JsonText;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.runs.RunSummary;

/** Lists of what the sum of some runs counts. */
public final class RunLinks {
  /** For the values of what runs are told apart by. */
  private static final int ROOM = 1_000;

  private static final String FAILING = "(failed gt 0 or errored gt 0 or setUps gt 0)";

  private final String pick;

  /**
   * @param pick the filter that picks these runs
   */
  RunLinks(String pick) {
    this.pick = pick;
  }

  /**
   * Reads the filter that runs are picked by, and holds that the lists of what is counted in them
   * can be asked for: those filters are longer and deeper.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public static Criterion read(String filter, Instant now, SavedNames names) {
    Criterion runs = Resolver.read(filter, Thing.RUN, now, names);
    Period any = Period.ofDays(1, now);
    RunLinks links = new RunLinks(RunPick.of(filter, any, List.of(), List.of()));
    String longest = links.failing("group.ticket[key eq \"A-1\"]").filter() + " ".repeat(ROOM);
    String deepest = links.testsWith("tries[type eq \"a.B\"]").filter() + " ".repeat(ROOM);
    try {
      Resolver.read(longest, Thing.RESULT, now, names);
      Resolver.read(deepest, Thing.GROUP, now, names);
    } catch (CellarException e) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the filter of a panel has to be shorter or less deep, so that its numbers can lead to"
              + " what they count",
          e);
    }
    return runs;
  }

  /** Of one run. */
  static RunLinks of(RunSummary run) {
    return of(run.stream(), run.number());
  }

  static RunLinks of(String stream, int number) {
    return new RunLinks("stream eq " + JsonText.quoted(stream) + " and number eq " + number);
  }

  /** Of those of them for which it holds, too. */
  public RunLinks within(String which) {
    return new RunLinks(pick + " and " + which);
  }

  /** The filter that picks these runs. */
  public String pick() {
    return pick;
  }

  /** They themselves. */
  public Sheet.Link runs() {
    return new Sheet.Link(Thing.RUN, pick);
  }

  /** Those of them for which it holds. */
  public Sheet.Link runs(String which) {
    return new Sheet.Link(Thing.RUN, pick + " and " + which);
  }

  /** Those in which something failed. */
  public Sheet.Link red() {
    return runs(FAILING);
  }

  /** Results of one outcome. */
  public Sheet.Link outcome(Outcome outcome) {
    return results("outcome eq \"" + outcome.word() + "\"");
  }

  /** Failing results of tests. */
  public Sheet.Link failing(String which) {
    return results("(outcome eq \"failed\" or outcome eq \"errored\") and " + which);
  }

  /** Results of tests; set-ups are none. */
  public Sheet.Link tests() {
    return results("setUp eq false");
  }

  /** Tests with a result for which it holds. */
  public Sheet.Link testsWith(String which) {
    return new Sheet.Link(Thing.TEST, "results[run[" + pick + "] and " + which + "]");
  }

  /** Tests that these runs had no more. */
  public Sheet.Link gone() {
    return new Sheet.Link(Thing.TEST, "goneFrom[" + pick + "]");
  }

  /**
   * Of each test of which that is told in a run one result, however many parts have one: as many as
   * runs count.
   */
  public Sheet.Link changed(Change change) {
    return results("change eq \"" + change.word() + "\" and repeated eq false");
  }

  /** Results for which it holds. */
  public Sheet.Link results(String which) {
    return new Sheet.Link(Thing.RESULT, "run[" + pick + "] and " + which);
  }
}
