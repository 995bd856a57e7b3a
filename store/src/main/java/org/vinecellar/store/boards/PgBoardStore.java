package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.BOARD;
import static org.vinecellar.store.generated.Tables.BOARD_LINK;

import com.fasterxml.jackson.core.type.TypeReference;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.exception.DataAccessException;
import org.vinecellar.core.boards.Board;
import org.vinecellar.core.boards.BoardLink;
import org.vinecellar.core.boards.BoardStore;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.sql.Json;
import org.vinecellar.store.sql.Sql;

/** Boards in PostgreSQL. Thread-safe. */
public final class PgBoardStore implements BoardStore {
  private final Sql sql;

  /** On that database. */
  public PgBoardStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Board.Kept> boards(int projectId) {
    return sql.with(
        dsl ->
            dsl.selectFrom(BOARD)
                .where(BOARD.PROJECT_ID.eq(projectId))
                .orderBy(BOARD.NAME, BOARD.ID)
                .fetch(PgBoardStore::kept));
  }

  @Override
  public Board.Kept board(int projectId, long id) {
    return sql.with(dsl -> one(dsl, projectId, id));
  }

  private static Board.Kept one(DSLContext dsl, int projectId, long id) {
    return dsl.selectFrom(BOARD)
        .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(id))
        .fetchOptional(PgBoardStore::kept)
        .orElseThrow(() -> notFound(id));
  }

  @Override
  public Board.Kept add(int projectId, Board board, Hand hand) {
    return named(
        board,
        dsl -> {
          dsl.execute("select pg_advisory_xact_lock(?, ?)", 0x626f6172, projectId);
          if (dsl.fetchCount(BOARD, BOARD.PROJECT_ID.eq(projectId)) >= MOST) {
            throw new CellarException(
                ProblemCode.TOO_LARGE,
                "there are " + MOST + " boards already; take one away that nobody looks at");
          }
          Long id =
              dsl.insertInto(BOARD)
                  .set(BOARD.PROJECT_ID, projectId)
                  .set(BOARD.VERSION, 1)
                  .set(BOARD.NAME, board.name())
                  .set(BOARD.PANELS, Json.of(board.panels()))
                  .set(BOARD.CHANGED_AT, Sql.utc(hand.now()))
                  .set(BOARD.CHANGED_BY, hand.name())
                  .returning(BOARD.ID)
                  .fetchSingle(BOARD.ID);
          return one(dsl, projectId, id);
        });
  }

  @Override
  public Board.Kept change(int projectId, long id, int version, Board board, Hand hand) {
    return named(
        board,
        dsl -> {
          int changed =
              dsl.update(BOARD)
                  .set(BOARD.VERSION, version + 1)
                  .set(BOARD.NAME, board.name())
                  .set(BOARD.PANELS, Json.of(board.panels()))
                  .set(BOARD.CHANGED_AT, Sql.utc(hand.now()))
                  .set(BOARD.CHANGED_BY, hand.name())
                  .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(id), BOARD.VERSION.eq(version))
                  .execute();
          Board.Kept kept = one(dsl, projectId, id);
          if (changed == 0) {
            throw new CellarException(
                ProblemCode.EDITED_MEANWHILE,
                kept.changedBy() + " changed the board meanwhile; look at it again");
          }
          return kept;
        });
  }

  /** Does work that gives a board its name. */
  private Board.Kept named(Board board, Function<DSLContext, Board.Kept> work) {
    return sql.transaction(
        dsl -> {
          try {
            return work.apply(dsl);
          } catch (DataAccessException e) {
            throw Sql.isDuplicate(e)
                ? new CellarException(
                    ProblemCode.ALREADY_EXISTS,
                    "there is a board “" + board.name() + "” already; give this one another name",
                    e)
                : e;
          }
        });
  }

  @Override
  public void remove(int projectId, long id) {
    int removed =
        sql.with(
            dsl ->
                dsl.deleteFrom(BOARD)
                    .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(id))
                    .execute());
    if (removed == 0) {
      throw notFound(id);
    }
  }

  @Override
  public List<BoardLink> links(int projectId, long id, Instant now) {
    return sql.with(
        dsl -> {
          Board.Kept kept = one(dsl, projectId, id);
          return dsl.selectFrom(BOARD_LINK)
              .where(
                  BOARD_LINK.PROJECT_ID.eq(projectId),
                  BOARD_LINK.BOARD_ID.eq(kept.id()),
                  BOARD_LINK.ENDS_AT.gt(Sql.utc(now)))
              .orderBy(BOARD_LINK.ID.desc())
              .fetch(PgBoardStore::link);
        });
  }

  @Override
  public BoardLink addLink(int projectId, long id, String secretHash, Instant endsAt, Hand hand) {
    return sql.transaction(
        dsl -> {
          // The board is held, so that nobody counts its links beside this.
          dsl.select(BOARD.ID)
              .from(BOARD)
              .where(BOARD.PROJECT_ID.eq(projectId), BOARD.ID.eq(id))
              .forUpdate()
              .fetchOptional()
              .orElseThrow(() -> notFound(id));
          dsl.deleteFrom(BOARD_LINK)
              .where(
                  BOARD_LINK.PROJECT_ID.eq(projectId),
                  BOARD_LINK.BOARD_ID.eq(id),
                  BOARD_LINK.ENDS_AT.le(Sql.utc(hand.now())))
              .execute();
          int there =
              dsl.fetchCount(
                  BOARD_LINK, BOARD_LINK.PROJECT_ID.eq(projectId), BOARD_LINK.BOARD_ID.eq(id));
          if (there >= MOST_LINKS) {
            throw new CellarException(
                ProblemCode.TOO_LARGE,
                "the board has " + MOST_LINKS + " links already; take one back that nobody uses");
          }
          return link(
              dsl.insertInto(BOARD_LINK)
                  .set(BOARD_LINK.PROJECT_ID, projectId)
                  .set(BOARD_LINK.BOARD_ID, id)
                  .set(BOARD_LINK.SECRET_HASH, secretHash)
                  .set(BOARD_LINK.MADE_BY, hand.name())
                  .set(BOARD_LINK.MADE_AT, Sql.utc(hand.now()))
                  .set(BOARD_LINK.ENDS_AT, Sql.utc(endsAt))
                  .returning()
                  .fetchSingle());
        });
  }

  @Override
  public void removeLink(int projectId, long id, long link) {
    int removed =
        sql.with(
            dsl ->
                dsl.deleteFrom(BOARD_LINK)
                    .where(
                        BOARD_LINK.PROJECT_ID.eq(projectId),
                        BOARD_LINK.BOARD_ID.eq(id),
                        BOARD_LINK.ID.eq(link))
                    .execute());
    if (removed == 0) {
      throw new CellarException(ProblemCode.NOT_FOUND, "the board has no link " + link);
    }
  }

  @Override
  public Optional<BoardLink.Opened> opened(String secretHash, Instant now) {
    return sql.with(
        dsl ->
            dsl.select(BOARD.asterisk(), BOARD_LINK.ENDS_AT)
                .from(BOARD_LINK)
                .join(BOARD)
                .on(BOARD.PROJECT_ID.eq(BOARD_LINK.PROJECT_ID), BOARD.ID.eq(BOARD_LINK.BOARD_ID))
                .where(BOARD_LINK.SECRET_HASH.eq(secretHash), BOARD_LINK.ENDS_AT.gt(Sql.utc(now)))
                .fetchOptional(
                    row ->
                        new BoardLink.Opened(
                            row.get(BOARD.PROJECT_ID),
                            row.get(BOARD.VERSION),
                            kept(row).board(),
                            row.get(BOARD_LINK.ENDS_AT).toInstant())));
  }

  private static BoardLink link(Record row) {
    return new BoardLink(
        row.get(BOARD_LINK.ID),
        row.get(BOARD_LINK.MADE_BY),
        row.get(BOARD_LINK.MADE_AT).toInstant(),
        row.get(BOARD_LINK.ENDS_AT).toInstant());
  }

  private static Board.Kept kept(Record row) {
    return new Board.Kept(
        row.get(BOARD.ID),
        row.get(BOARD.VERSION),
        new Board(
            row.get(BOARD.NAME), Json.read(row.get(BOARD.PANELS).data(), new TypeReference<>() {})),
        row.get(BOARD.CHANGED_AT).toInstant(),
        row.get(BOARD.CHANGED_BY));
  }

  private static CellarException notFound(long id) {
    return new CellarException(ProblemCode.NOT_FOUND, "there is no board " + id);
  }
}
