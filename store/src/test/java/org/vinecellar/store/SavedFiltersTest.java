package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.boards.Board;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.PanelKind;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedFilter;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.filters.SavedFilterStore.Use;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Filters under a name, and what names them. */
class SavedFiltersTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Hand HAND = new Hand("nadia", NOW);
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final Stores stores = STORE.stores();
  private final SavedFilterStore saved = stores.savedFilters();
  private int project;
  private long nadia;
  private long oskar;

  @BeforeEach
  void freshProject() {
    project = TestUploads.inNewProject(stores, NOW).project();
    nadia = account("nadia-" + project);
    oskar = account("oskar-" + project);
  }

  private static long account(String login) {
    STORE.number(
        "with a as (insert into account (login, created_at) values ('"
            + login
            + "', now()) returning id) select 1 from a");
    return STORE.number("select id from account where login = '" + login + "'");
  }

  private static SavedFilter runs(String name, String text) {
    return new SavedFilter(name, Thing.RUN, text);
  }

  private Board.Kept board(String name, String... filters) {
    List<Panel> panels = new ArrayList<>();
    for (String filter : filters) {
      panels.add(
          new Panel(
              "",
              "",
              PanelKind.OUTCOMES,
              new Panel.Spot(0, panels.size(), 4, 1),
              filter,
              7,
              Step.DAY,
              List.of(),
              null,
              null));
    }
    return stores.boards().add(project, new Board(name, panels), HAND);
  }

  private static ProblemCode refused(org.assertj.core.api.ThrowableAssert.ThrowingCallable call) {
    ProblemCode[] code = new ProblemCode[1];
    assertThatThrownBy(call).isInstanceOfSatisfying(CellarException.class, e -> code[0] = e.code());
    return Objects.requireNonNull(code[0]);
  }

  @Test
  void ownOnesAreNobodyElses() {
    SavedFilter.Kept shared = saved.add(project, null, runs("Nights", "failed gt 0"), HAND);
    SavedFilter.Kept mine = saved.add(project, nadia, runs("Nights", "errored gt 0"), HAND);
    assertThat(saved.all(project, nadia)).containsExactlyInAnyOrder(shared, mine);
    assertThat(saved.all(project, oskar)).containsExactly(shared);
    assertThat(saved.all(project, null)).containsExactly(shared);
    assertThat(refused(() -> saved.one(project, oskar, mine.id())))
        .isEqualTo(ProblemCode.NOT_FOUND);
    assertThat(refused(() -> saved.remove(project, oskar, mine.id())))
        .isEqualTo(ProblemCode.NOT_FOUND);
    assertThat(
            refused(
                () -> saved.change(project, oskar, mine.id(), false, 1, runs("X", "a pr"), HAND)))
        .isEqualTo(ProblemCode.NOT_FOUND);
    assertThat(refused(() -> saved.add(project, nadia, runs("Nights", "failed gt 1"), HAND)))
        .isEqualTo(ProblemCode.ALREADY_EXISTS);
    // The same words mean what whoever asks has under that name.
    assertThat(Resolver.read("mine eq \"Nights\"", Thing.RUN, NOW, saved.names(project, nadia)))
        .isEqualTo(Resolver.read("errored gt 0", Thing.RUN, NOW));
    assertThatThrownBy(
            () -> Resolver.read("mine eq \"Nights\"", Thing.RUN, NOW, saved.names(project, oskar)))
        .hasMessageContaining("you have no filter of your own");
    int other = TestUploads.inNewProject(stores, NOW).project();
    assertThatThrownBy(
            () -> Resolver.read("saved eq \"Nights\"", Thing.RUN, NOW, saved.names(other, nadia)))
        .hasMessageContaining("no saved filter “Nights” in this project");
  }

  @Test
  void whatNamesItFollowsItsName() {
    SavedFilter.Kept nights = saved.add(project, null, runs("Nights", "failed gt 0"), HAND);
    SavedFilter.Kept red =
        saved.add(
            project,
            null,
            new SavedFilter("Red", Thing.RESULT, "run[saved eq \"Nights\"] and setUp eq false"),
            HAND);
    SavedFilter.Kept own =
        saved.add(project, oskar, runs("Own", "saved ne \"Nights\" or failed gt 3"), HAND);
    Board.Kept board = board("Board", "", "saved eq \"Nights\" and branch eq \"main\"");
    Board.Kept other = board("Other", "branch eq \"saved eq \\\"Nights\\\"\"");
    assertThat(saved.uses(project, nadia, nights))
        .containsExactly(
            new Use.OfBoard(board.id(), "Board"),
            new Use.OfFilter(red.id(), "Red"),
            new Use.OfOthers(1));
    assertThat(refused(() -> saved.remove(project, nadia, nights.id())))
        .isEqualTo(ProblemCode.STILL_USED);

    SavedFilter.Kept after =
        saved.change(
            project, nadia, nights.id(), true, 1, runs("Every \"night\"", "failed gt 1"), HAND);
    assertThat(after.version()).isEqualTo(2);
    assertThat(saved.one(project, oskar, own.id()).filter().text())
        .isEqualTo("saved ne \"Every \\\"night\\\"\" or failed gt 3");
    assertThat(saved.one(project, oskar, red.id()).filter().text())
        .isEqualTo("run[saved eq \"Every \\\"night\\\"\"] and setUp eq false");
    Board.Kept followed = stores.boards().board(project, board.id());
    assertThat(followed.version()).isEqualTo(2);
    assertThat(followed.board().panels().get(1).filter())
        .isEqualTo("saved eq \"Every \\\"night\\\"\" and branch eq \"main\"");
    assertThat(stores.boards().board(project, other.id())).isEqualTo(other);
    assertThat(
            refused(
                () ->
                    saved.change(
                        project, nadia, nights.id(), true, 1, runs("Late", "failed gt 1"), HAND)))
        .isEqualTo(ProblemCode.EDITED_MEANWHILE);
    assertThat(
            refused(
                () ->
                    saved.change(
                        project,
                        nadia,
                        nights.id(),
                        true,
                        2,
                        new SavedFilter("Nights", Thing.TEST, "tag pr"),
                        HAND)))
        .isEqualTo(ProblemCode.INVALID_VALUE);
  }

  @Test
  void whatIsSharedIsNamedAsShared() {
    SavedFilter.Kept mine = saved.add(project, nadia, runs("A", "failed gt 0"), HAND);
    SavedFilter.Kept too = saved.add(project, nadia, runs("B", "mine eq \"A\""), HAND);
    SavedFilter.Kept oskars = saved.add(project, oskar, runs("A", "failed gt 7"), HAND);
    SavedFilter.Kept his = saved.add(project, oskar, runs("B", "mine eq \"A\""), HAND);
    assertThat(saved.uses(project, nadia, mine)).containsExactly(new Use.OfFilter(too.id(), "B"));
    SavedFilter.Kept shared =
        saved.change(project, nadia, mine.id(), true, 1, runs("A", "failed gt 0"), HAND);
    assertThat(shared.owner()).isNull();
    assertThat(saved.one(project, nadia, too.id()).filter().text()).isEqualTo("saved eq \"A\"");
    assertThat(saved.one(project, oskar, his.id())).isEqualTo(his);
    assertThat(
            refused(
                () ->
                    saved.change(
                        project, nadia, mine.id(), false, 2, runs("A", "failed gt 0"), HAND)))
        .as("what all have stays theirs")
        .isEqualTo(ProblemCode.INVALID_VALUE);
    assertThat(
            refused(
                () ->
                    saved.change(
                        project, oskar, oskars.id(), true, 1, runs("A", "failed gt 0"), HAND)))
        .as("there is one of that name")
        .isEqualTo(ProblemCode.ALREADY_EXISTS);
  }

  /** Whatever is renamed, and by how many at once, what names it means the same as before. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2})
  void namesMeanTheSameAfterwards(int seed) {
    Random random = new Random(seed);
    List<SavedFilter.Kept> all = new ArrayList<>();
    Map<Long, Object> meant = new HashMap<>();
    for (int i = 0; i < 12; i++) {
      String text = "failed gt " + i;
      if (i > 0) {
        String named = all.get(random.nextInt(i)).filter().name();
        text += " or saved eq \"" + named + "\"";
      }
      all.add(saved.add(project, null, runs("F" + i, text), HAND));
    }
    all.forEach(one -> meant.put(one.id(), meaning(one.id())));
    Board.Kept board = board("B", "saved eq \"F3\"", "saved eq \"F11\" and not (saved eq \"F0\")");
    List<Object> shown = shown(board.id());
    ExecutorService many = Executors.newFixedThreadPool(6);
    try {
      CompletableFuture.allOf(
              IntStream.range(0, 40)
                  .mapToObj(
                      i -> {
                        long id = all.get(random.nextInt(all.size())).id();
                        return CompletableFuture.runAsync(() -> rename(id, "N" + i), many);
                      })
                  .toArray(CompletableFuture<?>[]::new))
          .join();
    } finally {
      many.shutdown();
    }
    assertThat(saved.all(project, null).stream().map(one -> one.filter().name()))
        .anyMatch(name -> name.startsWith("N"));
    all.forEach(one -> assertThat(meaning(one.id())).as("%s", one).isEqualTo(meant.get(one.id())));
    assertThat(shown(board.id())).isEqualTo(shown);
  }

  private void rename(long id, String name) {
    SavedFilter.Kept now = saved.one(project, null, id);
    try {
      SavedFilter.Kept unused =
          saved.change(
              project, null, id, true, now.version(), runs(name, now.filter().text()), HAND);
    } catch (CellarException e) {
      // Another one was faster; what it named may have another name by now.
      assertThat(e.code()).isEqualTo(ProblemCode.EDITED_MEANWHILE);
    }
  }

  private Object meaning(long id) {
    return Resolver.read(
        saved.one(project, null, id).filter().text(), Thing.RUN, NOW, saved.names(project, null));
  }

  private List<Object> shown(long board) {
    List<Object> shown = new ArrayList<>();
    for (Panel panel : stores.boards().board(project, board).board().panels()) {
      shown.add(Resolver.read(panel.filter(), Thing.RUN, NOW, saved.names(project, null)));
    }
    return shown;
  }
}
