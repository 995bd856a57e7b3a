package org.vinecellar.store.triage;

import static org.vinecellar.store.generated.Tables.FAILURE_GROUP;

import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.Result;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.EndedBy;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.desk.DeskStore.Question;
import org.vinecellar.core.triage.desk.DeskStore.Sums;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.filters.Conditions;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Sql;
import org.vinecellar.store.triage.tickets.GroupTickets;

/** Failure groups over all runs. */
public final class DeskQueries {
  private static final String RETURNED =
      "(g.open > 0 and exists (select 1 from decision e where e.project_id = g.project_id"
          + " and e.group_id = g.id and e.undone_at is null and e.scope in (1, 2)"
          + " and e.ends_at <= g.last_at))";

  /** Two explanations that stand and differ: {@link Carrying} leaves such a group alone. */
  private static final String DISPUTED =
      "(select count(distinct (e.category_id, coalesce(e.comment, ''))) > 1 from decision e"
          + " where e.project_id = g.project_id and e.group_id = g.id and e.undone_at is null"
          + " and e.scope in (1, 2) and (e.ends_at is null or e.ends_at > g.last_at))";

  /** Of a decision {@code d} where it was made, or null for none. */
  static final String ORIGIN =
      "case when d.id is null then null when d.scope = 3 then 2 else 1 end";

  private static final String THERE = "g.project_id = ? and g.results > 0";

  /** A run of the group, the first or the last by its time, as {@code name}. */
  private static final String RUN =
      " join lateral (select r.id, r.number, r.started_at, m.name as stream from group_run gr"
          + " join run r on r.project_id = g.project_id and r.id = gr.run_id and r.number is not null"
          + " join stream m on m.project_id = g.project_id and m.id = r.stream_id"
          + " and m.deleted_at is null where gr.project_id = g.project_id and gr.group_id = g.id"
          + " order by gr.started_at %s, gr.run_id %s limit 1) %s on true";

  private static final String LINES =
      "select g.id, g.kind, g.sentence, g.template, g.results, g.open, g.runs, g.assigned_to, g.tests,"
          + " g.streams, a.id as first_id, a.number as first_number, a.started_at as first_at,"
          + " a.stream as first_stream, z.id as last_id, z.number as last_number,"
          + " z.started_at as last_at, z.stream as last_stream, f.place, "
          + FailureQueries.TEST_NAME
          + " as test, d.id as decision, d.comment, d.made_by, d.ends_at, d.ended_by, d.until_closed, c.name as category,"
          + " "
          + ORIGIN
          + " as origin, "
          + RETURNED
          + " as returned, "
          + DISPUTED
          + " as disputed from g"
          + String.format(RUN, "asc", "asc", "a")
          + String.format(RUN, "desc", "desc", "z")
          + " join lateral (select f.place, f.test_id from failure f where f.run_id = z.id"
          + " and f.group_id = g.id order by f.decision_id is not null, f.place limit 1) f on true"
          + " join test t on t.project_id = g.project_id and t.id = f.test_id"
          + " left join suite s on s.project_id = g.project_id and s.id = t.suite_id"
          + " left join lateral (select d.* from decision d where d.project_id = g.project_id"
          + " and d.group_id = g.id and d.undone_at is null and d.scope > 0"
          + " order by d.scope = 3, coalesce(d.ends_at, 'infinity') desc, d.id desc limit 1) d on true"
          + " left join category c on c.project_id = g.project_id and c.id = d.category_id";

  private final DSLContext dsl;
  private final int projectId;

  /** In that project. */
  public DeskQueries(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** Whether explanations of a group stand that differ. */
  boolean isDisputed(long group) {
    return dsl
        .fetch(
            "select " + DISPUTED + " from failure_group g where g.project_id = ? and g.id = ?",
            projectId,
            group)
        .stream()
        .anyMatch(row -> row.get(0, Boolean.class));
  }

  /** Those that are asked for. */
  public List<GroupLine> lines(Question question) {
    return lines(question, null);
  }

  /**
   * Those that are asked for.
   *
   * @param made only those that were made since then; null for all
   */
  public List<GroupLine> lines(Question question, @Nullable Instant made) {
    List<Object> of = new ArrayList<>();
    of.add(Sql.utc(question.now()));
    of.addAll(values(question, made));
    of.add(question.from());
    of.add(question.limit());
    of.add(Conditions.ofGroups(projectId, FAILURE_GROUP.as("g"), question.filter()));
    Result<Record> rows =
        dsl.fetch(
            "with g as (select g.*, g.open * power(0.5, greatest(0, extract(epoch from"
                + " (select ?::timestamptz) - g.last_at)) / 604800.0) as weight from failure_group g where "
                + where(question.show())
                + " and ({"
                + (of.size() - 1)
                + "}) order by weight desc, g.results desc, g.id offset ? limit ?) "
                + LINES
                + " order by g.weight desc, g.results desc, g.id",
            of.toArray());
    return lines(rows);
  }

  private List<GroupLine> lines(Result<Record> rows) {
    Map<Long, List<Ticket>> tickets =
        GroupTickets.of(dsl, projectId, rows.getValues("id", Long.class));
    return rows.map(row -> line(row, tickets));
  }

  /** How many there are, wherever the question begins and ends. */
  public int count(Question question, @Nullable Instant made) {
    List<Object> of = new ArrayList<>(values(question, made));
    of.add(Conditions.ofGroups(projectId, FAILURE_GROUP.as("g"), question.filter()));
    return dsl.fetchSingle(
            "select count(*)::int from failure_group g where "
                + where(question.show())
                + " and ({"
                + (of.size() - 1)
                + "})",
            of.toArray())
        .get(0, Integer.class);
  }

  private String where(Show show) {
    return THERE
        + " and g.last_at >= coalesce((select ?::timestamptz), '-infinity')"
        + which(show)
        + " and (?::text is null or g.assigned_to = ?)"
        + " and g.made_at > coalesce((select ?::timestamptz), '-infinity')";
  }

  private List<Object> values(Question question, @Nullable Instant made) {
    return Arrays.asList(
        projectId,
        time(question.since()),
        question.show() == Show.MINE ? question.who() : null,
        question.who(),
        time(made));
  }

  private String which(Show show) {
    return switch (show) {
      case UNSORTED -> " and g.open > 0";
      case RETURNED -> " and " + RETURNED;
      case EXPLAINED -> " and g.open = 0";
      case TICKETS -> " and " + GroupTickets.doesNotFit(projectId);
      case MINE, ALL -> "";
    };
  }

  Optional<GroupLine> line(long group) {
    return lines(
            dsl.fetch(
                "with g as (select g.* from failure_group g where "
                    + THERE
                    + " and g.id = ?) "
                    + LINES,
                projectId,
                group))
        .stream()
        .findFirst();
  }

  Sums sums(@Nullable Instant since, String who) {
    OffsetDateTime from = time(since);
    Record groups =
        dsl.fetchSingle(
            "with g as (select g.*, g.last_at >= coalesce((select ?::timestamptz), '-infinity') as late"
                + " from failure_group g where "
                + THERE
                + " and (g.open > 0 or g.assigned_to = ?)) select"
                + " count(*) filter (where g.open > 0 and g.late)::int as unsorted,"
                + " count(*) filter (where g.late and "
                + RETURNED
                + ")::int as returned, count(*) filter (where g.assigned_to = ?)::int as mine,"
                + " count(*) filter (where g.open > 0 and not g.late)::int as older from g",
            from,
            projectId,
            who,
            who);
    Record results =
        from == null
            ? dsl.fetchSingle(
                "select coalesce(sum(g.open), 0)::int as open, coalesce(sum(g.results), 0)::int"
                    + " as results from failure_group g where g.project_id = ? and g.results > 0",
                projectId)
            : dsl.fetchSingle(
                "select coalesce(sum(gr.open), 0)::int as open, coalesce(sum(gr.results), 0)::int"
                    + " as results from group_run gr where gr.project_id = ?"
                    + " and gr.started_at >= (select ?::timestamptz)",
                projectId,
                from);
    Record decisions =
        dsl.fetchSingle(
            "select count(*) filter (where d.scope in (1, 2))::int as decisions,"
                + " count(distinct d.rule_id)::int as rules,"
                + " count(*) filter (where d.scope = 0)::int as by_hand from decision d"
                + " where d.project_id = ? and d.undone_at is null and exists (select 1"
                + " from group_run gr where gr.project_id = d.project_id"
                + " and gr.group_id = d.group_id and gr.open < gr.results"
                + " and gr.started_at >= coalesce((select ?::timestamptz), '-infinity'))",
            projectId,
            from);
    return new Sums(
        groups.get("unsorted", Integer.class),
        groups.get("returned", Integer.class),
        groups.get("mine", Integer.class),
        groups.get("older", Integer.class),
        results.get("open", Integer.class),
        results.get("results", Integer.class),
        decisions.get("decisions", Integer.class),
        decisions.get("by_hand", Integer.class),
        decisions.get("rules", Integer.class),
        dsl.fetchSingle(
                "select count(*)::int from run where project_id = ? and not explained"
                    + " and number is not null",
                projectId)
            .get(0, Integer.class));
  }

  private static @Nullable OffsetDateTime time(@Nullable Instant at) {
    return at == null ? null : Sql.utc(at);
  }

  private static GroupLine line(Record row, Map<Long, List<Ticket>> tickets) {
    long group = row.get("id", Long.class);
    return new GroupLine(
        group,
        KeyKind.ofCode(row.get("kind", Integer.class)),
        row.get("sentence", String.class),
        row.get("template", String.class),
        row.get("results", Integer.class),
        row.get("open", Integer.class),
        row.get("tests", Integer.class),
        row.get("streams", Integer.class),
        row.get("runs", Integer.class),
        seen(row, "first_"),
        seen(row, "last_"),
        Packed.id(row.get("place", Integer.class)),
        row.get("test", String.class),
        FailureQueries.said(row),
        instant(row, "ends_at"),
        EndedBy.ofCode(row.get("ended_by", Integer.class)),
        Boolean.TRUE.equals(row.get("until_closed", Boolean.class)),
        row.get("returned", Boolean.class),
        row.get("disputed", Boolean.class),
        row.get("assigned_to", String.class),
        tickets.getOrDefault(group, List.of()));
  }

  /** A run, of columns that begin so. */
  static GroupLine.SeenIn seen(Record row, String prefix) {
    return new GroupLine.SeenIn(
        row.get(prefix + "id", Long.class),
        row.get(prefix + "stream", String.class),
        row.get(prefix + "number", Integer.class),
        Objects.requireNonNull(instant(row, prefix + "at")));
  }

  static @Nullable Instant instant(Record row, String column) {
    OffsetDateTime at = row.get(column, OffsetDateTime.class);
    return at == null ? null : at.toInstant();
  }
}
