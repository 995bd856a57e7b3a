package org.vinecellar.core.filters;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;

/** Saved filters of projects. */
public interface SavedFilterStore {
  /** So many a project has at most, and so many of one's own one person. */
  int MOST = 500;

  /**
   * Those that all have, and those of one person, by name.
   *
   * @param account null for nobody's own
   */
  List<SavedFilter.Kept> all(int projectId, @Nullable Long account);

  /**
   * One of those.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}, also for one that is
   *     somebody else's own
   */
  SavedFilter.Kept one(int projectId, @Nullable Long account, long id);

  /**
   * Those that a filter may name.
   *
   * @param account null for nobody's own
   */
  SavedNames names(int projectId, @Nullable Long account);

  /**
   * Keeps one more.
   *
   * @param owner null for one that all have
   * @throws org.vinecellar.core.problem.CellarException {@code ALREADY_EXISTS} when another has its
   *     name, {@code TOO_LARGE} when there are too many
   */
  SavedFilter.Kept add(int projectId, @Nullable Long owner, SavedFilter filter, Hand hand);

  /**
   * Puts another in its place. With another name, it is named so wherever it is used.
   *
   * @param account who changes it; null for nobody with filters of their own
   * @param shared whether all have it from now on; what all had stays so
   * @param version that was seen
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when it has
   *     another by now; {@code INVALID_VALUE} when it would be of another thing than it was; and as
   *     {@link #one} and {@link #add}
   */
  SavedFilter.Kept change(
      int projectId,
      @Nullable Long account,
      long id,
      boolean shared,
      int version,
      SavedFilter filter,
      Hand hand);

  /**
   * Takes one away.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}; {@code STILL_USED} while
   *     something names it
   */
  void remove(int projectId, @Nullable Long account, long id);

  /**
   * Where one is used.
   *
   * @param account who asks
   * @return boards, then filters, each by name
   */
  List<Use> uses(int projectId, @Nullable Long account, SavedFilter.Kept filter);

  /** Something that names a filter. */
  sealed interface Use {
    /** For people. */
    String text();

    /** A board. */
    record OfBoard(long id, String name) implements Use {
      @Override
      public String text() {
        return "the board “" + name + "”";
      }
    }

    /** Another filter that all have, or one's own. */
    record OfFilter(long id, String name) implements Use {
      @Override
      public String text() {
        return "the filter “" + name + "”";
      }
    }

    /** Filters that are other people's own. */
    record OfOthers(int filters) implements Use {
      @Override
      public String text() {
        return filters == 1 ? "a filter of somebody else" : filters + " filters of others";
      }
    }
  }
}
