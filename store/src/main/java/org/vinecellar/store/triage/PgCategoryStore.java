package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.CATEGORY;
import static org.vinecellar.store.generated.Tables.RULE;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.Category;
import org.vinecellar.core.triage.decisions.CategoryStore;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.rows.Categories;

/** Categories in PostgreSQL. Thread-safe. */
public final class PgCategoryStore implements CategoryStore {
  private static final int LONGEST_NAME = 60;

  private final Sql sql;

  /** On that database. */
  public PgCategoryStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Category> categories(int projectId) {
    return sql.transaction(dsl -> Categories.of(dsl, projectId));
  }

  @Override
  public Category add(int projectId, Draft draft) {
    return sql.transaction(
        dsl -> {
          List<Category> before = held(dsl, projectId);
          Draft checked = checked(draft, before, 0);
          if (before.size() >= MOST) {
            throw new CellarException(
                ProblemCode.TOO_LARGE,
                "there are " + MOST + " categories already, retired ones too; rename one instead");
          }
          Long id =
              dsl.insertInto(CATEGORY)
                  .set(CATEGORY.PROJECT_ID, projectId)
                  .set(CATEGORY.NAME, checked.name())
                  .set(CATEGORY.COLOUR, checked.colour())
                  .set(CATEGORY.POSITION, before.size())
                  .set(CATEGORY.COUNTS, checked.counts())
                  .returning(CATEGORY.ID)
                  .fetchSingle(CATEGORY.ID);
          return one(Categories.of(dsl, projectId), id);
        });
  }

  @Override
  public Category change(int projectId, long id, Draft draft) {
    return sql.transaction(
        dsl -> {
          List<Category> before = held(dsl, projectId);
          Category was = one(before, id);
          Draft checked = checked(draft, before, id);
          if (checked.retired() && !was.retired()) {
            mayRetire(dsl, projectId, was, before);
          }
          dsl.update(CATEGORY)
              .set(CATEGORY.NAME, checked.name())
              .set(CATEGORY.COLOUR, checked.colour())
              .set(CATEGORY.COUNTS, checked.counts())
              .set(
                  CATEGORY.RETIRED_AT,
                  checked.retired()
                      ? DSL.coalesce(CATEGORY.RETIRED_AT, DSL.currentOffsetDateTime())
                      : DSL.castNull(CATEGORY.RETIRED_AT))
              .where(CATEGORY.PROJECT_ID.eq(projectId), CATEGORY.ID.eq(id))
              .execute();
          return one(Categories.of(dsl, projectId), id);
        });
  }

  @Override
  public void order(int projectId, List<Long> ids) {
    sql.transaction(
        dsl -> {
          List<Category> before = held(dsl, projectId);
          if (ids.size() != before.size()
              || !new HashSet<>(ids)
                  .equals(new HashSet<>(before.stream().map(Category::id).toList()))) {
            throw new CellarException(
                ProblemCode.EDITED_MEANWHILE,
                "these are not the categories that there are by now: somebody changed them; look"
                    + " again");
          }
          for (int i = 0; i < ids.size(); i++) {
            dsl.update(CATEGORY)
                .set(CATEGORY.POSITION, i)
                .where(CATEGORY.PROJECT_ID.eq(projectId), CATEGORY.ID.eq(ids.get(i)))
                .execute();
          }
          return true;
        });
  }

  private static void mayRetire(
      DSLContext dsl, int projectId, Category category, List<Category> all) {
    if (all.stream().filter(one -> !one.retired()).count() == 1) {
      throw new CellarException(
          ProblemCode.LAST_ONE, "“" + category.name() + "” is the last one that is offered");
    }
    List<String> rules =
        dsl.select(RULE.NAME)
            .from(RULE)
            .where(
                RULE.PROJECT_ID.eq(projectId),
                RULE.CATEGORY_ID.eq(category.id()),
                RULE.IS_ON.isTrue(),
                RULE.DELETED_AT.isNull())
            .orderBy(RULE.POSITION)
            .fetch(RULE.NAME);
    if (!rules.isEmpty()) {
      throw new CellarException(
          ProblemCode.LAST_ONE,
          "the rule “"
              + rules.get(0)
              + "” explains with “"
              + category.name()
              + "”; switch it off or let it say another category first");
    }
  }

  /** All of them; nobody else changes any until this ends. */
  private static List<Category> held(DSLContext dsl, int projectId) {
    dsl.execute("select pg_advisory_xact_lock(?, ?)", 0x63617465, projectId);
    return Categories.of(dsl, projectId);
  }

  private static Draft checked(Draft draft, List<Category> all, long id) {
    String name = draft.name().replace("\0", "").strip();
    if (name.isEmpty() || name.length() > LONGEST_NAME) {
      throw invalid("give the category a name of up to " + LONGEST_NAME + " characters");
    }
    if (name.toLowerCase(Locale.ROOT).equals("unsorted")) {
      throw invalid("“unsorted” is what has no category; choose another name");
    }
    if (!Category.COLOURS.contains(draft.colour())) {
      throw invalid(
          "the colour is “"
              + draft.colour()
              + "”; it can be "
              + String.join(", ", Category.COLOURS));
    }
    if (all.stream().anyMatch(one -> one.id() != id && one.name().equalsIgnoreCase(name))) {
      throw new CellarException(
          ProblemCode.ALREADY_EXISTS,
          "there is a category “" + name + "” already; perhaps it is retired");
    }
    return new Draft(name, draft.colour(), draft.counts(), draft.retired());
  }

  private static Category one(List<Category> all, long id) {
    return all.stream()
        .filter(one -> one.id() == id)
        .findFirst()
        .orElseThrow(
            () -> new CellarException(ProblemCode.NOT_FOUND, "there is no category " + id));
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
