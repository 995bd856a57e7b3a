package org.vinecellar.core.boards;

import java.util.List;
import org.vinecellar.core.edits.EditStore.Hand;

/** Boards of projects. */
public interface BoardStore {
  /** So many a project has at most. */
  int MOST = 500;

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
}
