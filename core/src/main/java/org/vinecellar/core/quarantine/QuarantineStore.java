package org.vinecellar.core.quarantine;

import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.quarantine.runners.NamedTest;

/**
 * Tests whose failures fail no gate for a while. A quarantine goes on with a test that goes on
 * under another name. Everything is of one project.
 */
public interface QuarantineStore {
  /** What is more at once is a mistake. */
  int MOST_AT_ONCE = 500;

  /**
   * Those that nobody has ended, the one that ends first first.
   *
   * @param stream those that hold in it, by its name; null for all
   * @param after how many were seen
   */
  List<Quarantine> open(int projectId, @Nullable String stream, int after, int limit);

  /** Those that somebody ended, the latest first. */
  List<Quarantine> ended(int projectId, @Nullable String stream, int after, int limit);

  /** One, whether it is ended or not; empty when there is none. */
  Optional<Quarantine> one(int projectId, long id);

  /** All that there were of a test, under whatever name, the latest first. */
  List<Quarantine> of(int projectId, long test);

  /**
   * Puts tests there. Those that are there already stay as they are.
   *
   * @param tests their numbers, {@link #MOST_AT_ONCE} at most
   * @param stream where it shall hold, by its name; null for every stream
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   *     stream, or none of the tests is one of it
   */
  Added add(int projectId, Collection<Long> tests, @Nullable String stream, Terms terms, Hand hand);

  /**
   * What came of it.
   *
   * @param added how many are there now that were not
   * @param already how many were there
   * @param unknown how many the stream, or the project, has not
   */
  record Added(int added, int already, int unknown) {}

  /**
   * Gives it other terms.
   *
   * @param version that was seen
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}, {@code
   *     EDITED_MEANWHILE}, {@code INVALID_VALUE} also when it is over
   */
  void change(int projectId, long id, int version, Terms terms, Hand hand);

  /**
   * Ends it: runs that begin from now on are not let pass.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} also when it is ended
   */
  void end(int projectId, long id, Hand hand);

  /**
   * Failing results of a run that fail no gate.
   *
   * @param failing how many there are
   * @param fresh those of them that did not fail in the run before
   * @param tests the numbers of their tests, {@link #MOST_AT_ONCE} at most
   */
  record InRun(int failing, int fresh, List<Long> tests) {
    /** Of a run in which nothing fails. */
    public static final InRun NOTHING = new InRun(0, 0, List.of());

    /** Copies the list. */
    public InRun {
      tests = List.copyOf(tests);
    }
  }

  /** Nothing for a run that there is not. */
  InRun in(int projectId, long run);

  /**
   * The tests that are there today.
   *
   * @param stream those that are in it, by its name; null for all
   * @param today in UTC
   * @param latest only under the names that they have now; else also under earlier ones, which
   *     other branches may still run
   */
  List<NamedTest> names(int projectId, @Nullable String stream, LocalDate today, boolean latest);
}
