package org.vinecellar.store.sql;

import java.util.List;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.vinecellar.core.operate.DatabaseWatch;

/** What the database says of itself. On connections that nobody else can take. Thread-safe. */
public final class PgDatabaseWatch implements DatabaseWatch {
  private final Sql sql;

  /** On that database. */
  public PgDatabaseWatch(Sql sql) {
    this.sql = sql;
  }

  @Override
  public void ask() {
    quickly(dsl -> dsl.fetchSingle("select 1"));
  }

  @Override
  public Facts facts() {
    return quickly(
        dsl -> {
          var row =
              dsl.fetchSingle(
                  "select current_setting('server_version'),"
                      + " (select version from flyway_schema_history where success"
                      + " order by installed_rank desc limit 1),"
                      + " pg_database_size(current_database()),"
                      + " (select count(*)::int from pg_stat_activity where backend_type = 'client backend'),"
                      + " current_setting('max_connections')::int,"
                      + " (select rolsuper from pg_roles where rolname = current_user)");
          List<TableSize> largest =
              dsl.fetch(
                      // A table that is cut into several is one.
                      "select coalesce(pg_partition_root(c.oid), c.oid::regclass)::text as name,"
                          + " sum(pg_total_relation_size(c.oid))::bigint as bytes,"
                          + " sum(greatest(c.reltuples, 0))::bigint"
                          + " from pg_class c join pg_namespace n on n.oid = c.relnamespace"
                          + " where c.relkind = 'r' and n.nspname = current_schema()"
                          + " group by 1 order by bytes desc limit 8")
                  .map(
                      table ->
                          new TableSize(
                              table.get(0, String.class),
                              table.get(1, Long.class),
                              table.get(2, Long.class)));
          return new Facts(
              row.get(0, String.class),
              row.get(1, String.class),
              row.get(2, Long.class),
              row.get(3, Integer.class),
              row.get(4, Integer.class),
              row.get(5, Boolean.class),
              largest);
        });
  }

  private <T> T quickly(Function<DSLContext, T> question) {
    return sql.with(
        dsl ->
            dsl.transactionResult(
                tx -> {
                  tx.dsl().execute("set local statement_timeout = '3s'");
                  return question.apply(tx.dsl());
                }));
  }
}
