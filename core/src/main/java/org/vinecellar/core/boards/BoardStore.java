package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.vinecellar.core.edits.EditStore.Hand;

/** Boards of projects. */
public interface BoardStore {
  /** So many a project has at most. */
  int MOST = 500;

  /** So many links a board has at most that are good. */
  int MOST_LINKS = 50;

  /** All of them, by name. */
  List<Board.Kept> boards(int projectId);

  /**
   * One.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  Board.Kept board(int projectId, long id);

  /**
   * Keeps one more.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code ALREADY_EXISTS} when another has its
   *     name, {@code TOO_LARGE} when there are too many
   */
  Board.Kept add(int projectId, Board board, Hand hand);

  /**
   * Puts another in its place.
   *
   * @param version that was seen
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when it has
   *     another by now; and as {@link #board} and {@link #add}
   */
  Board.Kept change(int projectId, long id, int version, Board board, Hand hand);

  /**
   * Takes one away.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  void remove(int projectId, long id);

  /**
   * The links of a board that are good, the latest first.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  List<BoardLink> links(int projectId, long id, Instant now);

  /**
   * Makes one more.
   *
   * @param secretHash by which it is found
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}, {@code TOO_LARGE} when
   *     there are too many
   */
  BoardLink addLink(int projectId, long id, String secretHash, Instant endsAt, Hand hand);

  /**
   * Makes one useless.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}
   */
  void removeLink(int projectId, long id, long link);

  /** The board that a link opens, as it is now; nothing when it is not good, or not any more. */
  Optional<BoardLink.Opened> opened(String secretHash, Instant now);
}
