package org.vinecellar.core.triage.decisions;

import java.util.List;

/** Keeps the categories of a project. */
public interface CategoryStore {
  /** So many a project can have, retired ones too. */
  int MOST = 40;

  /** In their order, retired ones too. A project that has none gets those to start with. */
  List<Category> categories(int projectId);

  /**
   * What somebody says of a category.
   *
   * @param colour one of {@link Category#COLOURS}
   * @param counts whether its failures fail a gate
   * @param retired whether it is not offered any more
   */
  record Draft(String name, String colour, boolean counts, boolean retired) {}

  /**
   * Makes one, after all others.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code INVALID_VALUE}, {@code
   *     ALREADY_EXISTS} when another is called so, {@code TOO_LARGE} when there are too many
   */
  Category add(int projectId, Draft draft);

  /**
   * Changes one. What was decided with it tells its new name; what is retired goes on standing
   * where it stands.
   *
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND}, {@code INVALID_VALUE},
   *     {@code ALREADY_EXISTS} when another is called so, {@code LAST_ONE} when none would be
   *     offered, or a rule that is on still says it
   */
  Category change(int projectId, long id, Draft draft);

  /**
   * Puts them into another order, which is also that of their keys.
   *
   * @param ids of all of them
   * @throws org.vinecellar.core.problem.CellarException {@code EDITED_MEANWHILE} when these are not
   *     all that there are
   */
  void order(int projectId, List<Long> ids);
}
