package org.vinecellar.store;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.vinecellar.core.boards.Board;
import org.vinecellar.core.boards.BoardLink;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;

/** Links by which boards are seen without an account. */
class BoardLinksTest {
  private static final Instant NOW = Instant.parse("2026-11-20T04:00:00Z");
  private static final Instant END = BoardLink.end(3, NOW);
  private static final Hand HAND = new Hand("nadia", NOW);
  @RegisterExtension private static final TestStore STORE = new TestStore();

  private final BoardStore boards = STORE.stores().boards();
  private final int project = TestUploads.inNewProject(STORE.stores(), NOW).project();

  private long board(String name) {
    return boards.add(project, new Board(name, List.of()), HAND).id();
  }

  private static String hash(int number) {
    return Integer.toHexString(number).repeat(64).substring(0, 64);
  }

  /** It opens its own board, as that is by then, until its end and not a moment longer. */
  @Test
  void aLinkIsGoodUntilItsEnd() {
    long one = board("one");
    long other = board("other");
    BoardLink link = boards.addLink(project, one, hash(11), END, HAND);
    boards.change(project, one, 1, new Board("renamed", List.of()), HAND);
    assertThat(boards.opened(hash(11), END.minusMillis(1)).orElseThrow().board().name())
        .isEqualTo("renamed");
    assertThat(boards.opened(hash(11), END)).isEmpty();
    assertThat(boards.opened(hash(12), NOW)).isEmpty();
    assertThat(boards.links(project, one, NOW)).containsExactly(link);
    assertThat(boards.links(project, one, END)).isEmpty();
    assertThat(boards.links(project, other, NOW)).isEmpty();

    assertThatThrownBy(() -> boards.removeLink(project, other, link.id()))
        .isInstanceOf(CellarException.class);
    assertThatThrownBy(() -> boards.removeLink(project + 1, one, link.id()))
        .isInstanceOf(CellarException.class);
    boards.removeLink(project, one, link.id());
    assertThat(boards.opened(hash(11), NOW)).isEmpty();

    BoardLink unused = boards.addLink(project, one, hash(13), END, HAND);
    boards.remove(project, one);
    assertThat(boards.opened(hash(13), NOW)).isEmpty();
  }

  /** Those that have ended make room. */
  @Test
  void thereAreNotTooMany() {
    long one = board("one");
    for (int i = 0; i < BoardStore.MOST_LINKS; i++) {
      BoardLink unused = boards.addLink(project, one, hash(100 + i), END, HAND);
    }
    assertThatThrownBy(() -> boards.addLink(project, one, hash(200), END, HAND))
        .hasMessageContaining("take one back");
    Hand later = new Hand("oskar", END);
    Instant end = END.plus(Duration.ofDays(1));
    assertThat(boards.addLink(project, one, hash(201), end, later).madeBy()).isEqualTo("oskar");
    assertThat(boards.links(project, one, END)).hasSize(1);
  }
}
