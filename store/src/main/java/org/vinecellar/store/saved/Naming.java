package org.vinecellar.store.saved;

import static org.vinecellar.store.generated.Tables.BOARD;
import static org.vinecellar.store.generated.Tables.SAVED_FILTER;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiConsumer;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.FilterParser;
import org.vinecellar.core.filters.SavedFilter.Kept;
import org.vinecellar.core.filters.SavedFilterStore.Use;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.SavedUses;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** What names a saved filter. */
final class Naming {
  private final DSLContext dsl;
  private final int projectId;
  private final Kept filter;
  private final String word;

  Naming(DSLContext dsl, int projectId, Kept filter) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.filter = filter;
    this.word = filter.owner() == null ? SavedNames.SHARED : SavedNames.MINE;
  }

  private boolean isIn(String text) {
    return SavedUses.in(text, word).contains(filter.filter().name());
  }

  /**
   * Who uses it.
   *
   * @param account who asks; other people's own filters are only counted
   */
  List<Use> uses(@Nullable Long account) {
    List<Use> uses = new ArrayList<>();
    boards(
        false,
        (id, panels) -> {
          if (panels.stream().anyMatch(panel -> isIn(panel.filter()))) {
            uses.add(new Use.OfBoard(id, nameOf(id)));
          }
        });
    int others = 0;
    for (Kept other : filters()) {
      if (isIn(other.filter().text())) {
        if (other.owner() == null || other.owner().equals(account)) {
          uses.add(new Use.OfFilter(other.id(), other.filter().name()));
        } else {
          others++;
        }
      }
    }
    if (others > 0) {
      uses.add(new Use.OfOthers(others));
    }
    return uses;
  }

  private String nameOf(long board) {
    return dsl.select(BOARD.NAME)
        .from(BOARD)
        .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(board))
        .fetchSingle(BOARD.NAME);
  }

  /** Boards on which it may be named: what is somebody's own is on none. */
  private void boards(boolean locked, BiConsumer<Long, List<Panel>> each) {
    if (filter.owner() != null) {
      return;
    }
    var all =
        dsl.select(BOARD.ID, BOARD.PANELS)
            .from(BOARD)
            .where(BOARD.PROJECT_ID.eq(projectId))
            .orderBy(BOARD.NAME);
    (locked ? all.forUpdate().fetch() : all.fetch())
        .forEach(
            row ->
                each.accept(
                    row.get(BOARD.ID),
                    Json.read(row.get(BOARD.PANELS).data(), new TypeReference<>() {})));
  }

  /** Filters in which it may be named. */
  private List<Kept> filters() {
    return dsl.selectFrom(SAVED_FILTER)
        .where(
            SAVED_FILTER.PROJECT_ID.eq(projectId),
            SAVED_FILTER.ID.ne(filter.id()),
            filter.owner() == null ? DSL.noCondition() : SAVED_FILTER.ACCOUNT_ID.eq(filter.owner()))
        .orderBy(SAVED_FILTER.NAME, SAVED_FILTER.ID)
        .fetch(PgSavedFilterStore::kept);
  }

  private String renamed(String text, String nextWord, String next) {
    String renamed = SavedUses.renamed(text, word, filter.filter().name(), nextWord, next);
    if (renamed.length() > FilterParser.MAX_LENGTH) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a filter that names this one would be too long with the new name; choose a shorter one");
    }
    return renamed;
  }

  /** Names it as it is called from now on, wherever it is named. */
  void becomes(Kept next, Hand hand) {
    String name = filter.filter().name();
    String nextName = next.filter().name();
    String nextWord = next.owner() == null ? SavedNames.SHARED : SavedNames.MINE;
    if (name.equals(nextName) && word.equals(nextWord)) {
      return;
    }
    boards(
        true,
        (id, panels) -> {
          List<Panel> changed =
              panels.stream()
                  .map(panel -> panel.with(renamed(panel.filter(), nextWord, nextName)))
                  .toList();
          if (!changed.equals(panels)) {
            dsl.update(BOARD)
                .set(BOARD.VERSION, BOARD.VERSION.plus(1))
                .set(BOARD.PANELS, Json.of(changed))
                .set(BOARD.CHANGED_AT, Sql.utc(hand.now()))
                .set(BOARD.CHANGED_BY, hand.name())
                .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(id))
                .execute();
          }
        });
    for (Kept other : filters()) {
      String text = other.filter().text();
      String changed = renamed(text, nextWord, nextName);
      if (!changed.equals(text)) {
        dsl.update(SAVED_FILTER)
            .set(SAVED_FILTER.VERSION, SAVED_FILTER.VERSION.plus(1))
            .set(SAVED_FILTER.FILTER, changed)
            .where(SAVED_FILTER.PROJECT_ID.eq(projectId), SAVED_FILTER.ID.eq(other.id()))
            .execute();
      }
    }
  }
}
