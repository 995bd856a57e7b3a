package org.vinecellar.store.trust.folding;

import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.trust.renames.FoldingStore;
import org.vinecellar.core.trust.renames.MadeUp;
import org.vinecellar.store.results.SuitePaths;
import org.vinecellar.store.sql.Sql;

/** Made-up names in PostgreSQL. Thread-safe. */
public final class PgFoldingStore implements FoldingStore {
  private static final int MOST = 1_000;

  private final Sql sql;

  /** On that database. */
  public PgFoldingStore(Sql sql) {
    this.sql = sql;
  }

  @Override
  public List<Line> madeUp(int projectId, @Nullable String stream) {
    return sql.with(dsl -> lines(dsl, projectId, stream, null));
  }

  @Override
  public Line fold(int projectId, int id, boolean folded, Hand hand) {
    return sql.transaction(
        dsl -> {
          new Folding(dsl, projectId, hand).say(id, folded);
          return lines(dsl, projectId, null, id).get(0);
        });
  }

  private static List<Line> lines(
      DSLContext dsl, int projectId, @Nullable String stream, @Nullable Integer id) {
    List<Record> rows =
        List.copyOf(
            dsl.fetch(
                "select m.id, s.name as stream, m.suite_id::bigint, m.name, m.parameters,"
                    + " case when m.test_id is null then m.cases else (select count(*)::int"
                    + " from succession j where j.project_id = m.project_id"
                    + " and j.new_test_id = m.test_id and j.stream_id = m.stream_id) end as cases,"
                    + " r.number, m.test_id::bigint, m.said_at, m.said_by from made_up m"
                    + " join stream s on s.project_id = m.project_id and s.id = m.stream_id"
                    + " left join run r on r.project_id = m.project_id and r.id = m.run_id"
                    + " where m.project_id = ? and s.deleted_at is null"
                    + " and (?::text is null or s.name = ?) and (?::int is null or m.id = ?)"
                    + " order by m.id desc limit ?",
                projectId,
                stream,
                stream,
                id,
                id,
                MOST));
    List<Long> suites = rows.stream().map(row -> row.get(2, Long.class)).distinct().toList();
    SuitePaths paths = new SuitePaths(dsl, projectId, suites);
    List<Line> lines = new ArrayList<>();
    for (Record row : rows) {
      OffsetDateTime said = row.get("said_at", OffsetDateTime.class);
      lines.add(
          new Line(
              row.get(0, Integer.class),
              Objects.requireNonNull(row.get("stream", String.class)),
              paths.of(row.get(2, Long.class)),
              new MadeUp.Family(row.get(3, String.class), row.get("parameters", String.class)),
              row.get("cases", Integer.class),
              row.get("number", Integer.class),
              row.get("test_id", Long.class),
              said == null ? null : said.toInstant(),
              row.get("said_by", String.class)));
    }
    return lines;
  }
}
