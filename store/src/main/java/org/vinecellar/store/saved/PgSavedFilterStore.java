package org.vinecellar.store.saved;

import static org.vinecellar.store.generated.Tables.SAVED_FILTER;

import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.SavedFilter;
import org.vinecellar.core.filters.SavedFilter.Kept;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Sql;

/** Saved filters in PostgreSQL. Thread-safe. */
public final class PgSavedFilterStore implements SavedFilterStore {
  private final Sql sql;

  /** On that database. */
  public PgSavedFilterStore(Sql sql) {
    this.sql = sql;
  }

  private static Condition seen(int projectId, @Nullable Long account) {
    return SAVED_FILTER
        .PROJECT_ID
        .eq(projectId)
        .and(
            account == null
                ? SAVED_FILTER.ACCOUNT_ID.isNull()
                : SAVED_FILTER.ACCOUNT_ID.isNull().or(SAVED_FILTER.ACCOUNT_ID.eq(account)));
  }

  private static Condition of(@Nullable Long owner) {
    return owner == null ? SAVED_FILTER.ACCOUNT_ID.isNull() : SAVED_FILTER.ACCOUNT_ID.eq(owner);
  }

  @Override
  public List<Kept> all(int projectId, @Nullable Long account) {
    return sql.with(
        dsl ->
            dsl.selectFrom(SAVED_FILTER)
                .where(seen(projectId, account))
                .orderBy(SAVED_FILTER.NAME, SAVED_FILTER.ID)
                .fetch(PgSavedFilterStore::kept));
  }

  @Override
  public Kept one(int projectId, @Nullable Long account, long id) {
    return sql.with(dsl -> one(dsl, projectId, account, id));
  }

  private static Kept one(DSLContext dsl, int projectId, @Nullable Long account, long id) {
    return dsl.selectFrom(SAVED_FILTER)
        .where(seen(projectId, account), SAVED_FILTER.ID.eq(id))
        .fetchOptional(PgSavedFilterStore::kept)
        .orElseThrow(() -> notFound(id));
  }

  @Override
  public SavedNames names(int projectId, @Nullable Long account) {
    return new SavedNames() {
      @Override
      public @Nullable SavedFilter shared(String name) {
        return named(null, name);
      }

      @Override
      public @Nullable SavedFilter mine(String name) {
        return account == null ? null : named(account, name);
      }

      private @Nullable SavedFilter named(@Nullable Long owner, String name) {
        return sql.with(
                dsl ->
                    dsl.selectFrom(SAVED_FILTER)
                        .where(
                            SAVED_FILTER.PROJECT_ID.eq(projectId),
                            of(owner),
                            SAVED_FILTER.NAME.eq(name))
                        .fetchOptional(PgSavedFilterStore::kept))
            .map(Kept::filter)
            .orElse(null);
      }
    };
  }

  @Override
  public Kept add(int projectId, @Nullable Long owner, SavedFilter filter, Hand hand) {
    return named(
        projectId,
        filter,
        dsl -> {
          if (dsl.fetchCount(SAVED_FILTER, SAVED_FILTER.PROJECT_ID.eq(projectId).and(of(owner)))
              >= MOST) {
            throw new CellarException(
                ProblemCode.TOO_LARGE,
                "there are " + MOST + " saved filters already; take one away that nobody uses");
          }
          Long id =
              dsl.insertInto(SAVED_FILTER)
                  .set(SAVED_FILTER.PROJECT_ID, projectId)
                  .set(SAVED_FILTER.VERSION, 1)
                  .set(SAVED_FILTER.ACCOUNT_ID, owner)
                  .set(SAVED_FILTER.NAME, filter.name())
                  .set(SAVED_FILTER.THING, filter.of().word())
                  .set(SAVED_FILTER.FILTER, filter.text())
                  .set(SAVED_FILTER.CHANGED_AT, Sql.utc(hand.now()))
                  .set(SAVED_FILTER.CHANGED_BY, hand.name())
                  .returning(SAVED_FILTER.ID)
                  .fetchSingle(SAVED_FILTER.ID);
          return one(dsl, projectId, owner, id);
        });
  }

  @Override
  public Kept change(
      int projectId,
      @Nullable Long account,
      long id,
      boolean shared,
      int version,
      SavedFilter filter,
      Hand hand) {
    return named(
        projectId,
        filter,
        dsl -> {
          Kept before = one(dsl, projectId, account, id);
          if (before.filter().of() != filter.of()) {
            throw invalid(
                "“"
                    + before.filter().name()
                    + "” picks "
                    + before.filter().of().word()
                    + "s and goes on to do so; save another one for "
                    + filter.of().word()
                    + "s");
          }
          if (before.owner() == null && !shared) {
            throw invalid("what all have stays theirs; save a copy of your own");
          }
          if (before.version() != version) {
            throw new CellarException(
                ProblemCode.EDITED_MEANWHILE,
                before.changedBy() + " changed the filter meanwhile; look at it again");
          }
          Long owner = shared ? null : before.owner();
          dsl.update(SAVED_FILTER)
              .set(SAVED_FILTER.VERSION, version + 1)
              .set(SAVED_FILTER.ACCOUNT_ID, owner)
              .set(SAVED_FILTER.NAME, filter.name())
              .set(SAVED_FILTER.FILTER, filter.text())
              .set(SAVED_FILTER.CHANGED_AT, Sql.utc(hand.now()))
              .set(SAVED_FILTER.CHANGED_BY, hand.name())
              .where(SAVED_FILTER.PROJECT_ID.eq(projectId), SAVED_FILTER.ID.eq(id))
              .execute();
          Kept after = one(dsl, projectId, account, id);
          new Naming(dsl, projectId, before).becomes(after, hand);
          return after;
        });
  }

  @Override
  public void remove(int projectId, @Nullable Long account, long id) {
    Boolean unused =
        sql.transaction(
            dsl -> {
              lock(dsl, projectId);
              Kept kept = one(dsl, projectId, account, id);
              List<Use> uses = new Naming(dsl, projectId, kept).uses(account);
              if (!uses.isEmpty()) {
                throw new CellarException(
                    ProblemCode.STILL_USED,
                    "“"
                        + kept.filter().name()
                        + "” is used by "
                        + String.join(", ", uses.stream().map(Use::text).toList())
                        + "; take it out there first");
              }
              dsl.deleteFrom(SAVED_FILTER)
                  .where(SAVED_FILTER.PROJECT_ID.eq(projectId), SAVED_FILTER.ID.eq(id))
                  .execute();
              return true;
            });
  }

  @Override
  public List<Use> uses(int projectId, @Nullable Long account, Kept filter) {
    return sql.with(dsl -> new Naming(dsl, projectId, filter).uses(account));
  }

  /** Names change one after the other. */
  private static void lock(DSLContext dsl, int projectId) {
    dsl.execute("select pg_advisory_xact_lock(?, ?)", 0x66696c74, projectId);
  }

  /** Does work that gives a filter its name. */
  private Kept named(int projectId, SavedFilter filter, Function<DSLContext, Kept> work) {
    return sql.transaction(
        dsl -> {
          lock(dsl, projectId);
          try {
            return work.apply(dsl);
          } catch (DataAccessException e) {
            throw Sql.isDuplicate(e)
                ? new CellarException(
                    ProblemCode.ALREADY_EXISTS,
                    "there is a filter “" + filter.name() + "” already; give this one another name",
                    e)
                : e;
          }
        });
  }

  static Kept kept(Record row) {
    return new Kept(
        row.get(SAVED_FILTER.ID),
        row.get(SAVED_FILTER.VERSION),
        row.get(SAVED_FILTER.ACCOUNT_ID),
        new SavedFilter(
            row.get(SAVED_FILTER.NAME),
            thing(row.get(SAVED_FILTER.THING)).orElseThrow(),
            row.get(SAVED_FILTER.FILTER)),
        row.get(SAVED_FILTER.CHANGED_AT).toInstant(),
        row.get(SAVED_FILTER.CHANGED_BY));
  }

  private static Optional<Thing> thing(String word) {
    return Thing.ofWord(Objects.requireNonNull(word));
  }

  private static CellarException notFound(long id) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no saved filter " + id);
  }

  private static CellarException invalid(String why) {
    return new CellarException(ProblemCode.INVALID_VALUE, why);
  }
}
