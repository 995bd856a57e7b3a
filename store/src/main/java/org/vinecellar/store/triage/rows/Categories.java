package org.vinecellar.store.triage.rows;

import static org.vinecellar.store.generated.Tables.CATEGORY;

import java.util.List;
import org.jooq.DSLContext;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.Category;

/** The categories of a project. */
public final class Categories {
  private Categories() {}

  /** In their order; a project that has none gets those to start with. */
  public static List<Category> of(DSLContext dsl, int projectId) {
    List<Category> found = read(dsl, projectId);
    if (!found.isEmpty()) {
      return found;
    }
    int position = 0;
    for (Category.Starter one : Category.STARTERS) {
      dsl.insertInto(CATEGORY)
          .set(CATEGORY.PROJECT_ID, projectId)
          .set(CATEGORY.NAME, one.name())
          .set(CATEGORY.COLOUR, one.colour())
          .set(CATEGORY.POSITION, position++)
          .set(CATEGORY.COUNTS, one.counts())
          .onConflictDoNothing()
          .execute();
    }
    return read(dsl, projectId);
  }

  /** The one of that name, or the first where there is none by now. */
  public static Category starting(DSLContext dsl, int projectId, String name) {
    List<Category> all = of(dsl, projectId);
    return all.stream().filter(one -> one.name().equals(name)).findFirst().orElse(all.get(0));
  }

  /** The one with that ID, retired or not. */
  public static Category withId(DSLContext dsl, int projectId, long id) {
    return read(dsl, projectId).stream().filter(one -> one.id() == id).findFirst().orElseThrow();
  }

  /** The one of that very name, retired or not. */
  public static Category kept(DSLContext dsl, int projectId, String name) {
    return read(dsl, projectId).stream()
        .filter(one -> one.name().equals(name))
        .findFirst()
        .orElseThrow();
  }

  private static List<Category> read(DSLContext dsl, int projectId) {
    return dsl.selectFrom(CATEGORY)
        .where(CATEGORY.PROJECT_ID.eq(projectId))
        .orderBy(CATEGORY.POSITION, CATEGORY.ID)
        .fetch(
            row ->
                new Category(
                    row.get(CATEGORY.ID),
                    row.get(CATEGORY.NAME),
                    row.get(CATEGORY.COLOUR),
                    row.get(CATEGORY.COUNTS),
                    row.get(CATEGORY.RETIRED_AT) != null));
  }

  /** The one of that name, whatever its capitals, that is still offered. */
  public static Category named(DSLContext dsl, int projectId, String name) {
    List<Category> all = of(dsl, projectId);
    return all.stream()
        .filter(one -> one.name().equalsIgnoreCase(name.strip()) && !one.retired())
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.INVALID_VALUE,
                    "there is no category “"
                        + name
                        + "”; there are "
                        + String.join(
                            ", ",
                            all.stream()
                                .filter(one -> !one.retired())
                                .map(one -> "“" + one.name() + "”")
                                .toList())));
  }
}
