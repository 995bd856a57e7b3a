package org.vinecellar.store;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.Sheet;

/**
 * What panels tell, counted again by plain SQL over the rows of results, failures, changes and
 * decisions of given runs: none of the sums that are kept, and none of the code that is tested.
 */
final class PanelsAgain {
  private final TestStore store;

  /** Streams, earlier names and those of now. */
  private final String names;

  PanelsAgain(TestStore store) throws SQLException {
    this.store = store;
    List<String> rows = new ArrayList<>();
    try (Connection connection = store.database().getConnection();
        Statement statement = connection.createStatement()) {
      List<Long> streams = new ArrayList<>();
      try (ResultSet row = statement.executeQuery("select id from stream")) {
        while (row.next()) {
          streams.add(row.getLong(1));
        }
      }
      for (long stream : streams) {
        for (Map.Entry<Long, Long> one : Recount.nowNames(statement, stream).entrySet()) {
          rows.add("(" + stream + ", " + one.getKey() + ", " + one.getValue() + ")");
        }
      }
    }
    names = "(values " + String.join(", ", rows) + ") n (stream_id, test_id, now)";
  }

  /** Which tests are slow is learned; what is told of it has to be all of that. */
  private static String slow(String which, String millis, String runs) {
    return "select concat_ws(' ', f.test_id, s.name, "
        + millis
        + ") from test_figures f join stream s on s.id = f.stream_id where f.missing < 3 and "
        + which
        + " and exists (select 1 from run u where u.stream_id = s.id and u.id = any("
        + runs
        + "))";
  }

  private static String failing(String what) {
    return "count(*) filter (where r.outcome " + what + ")";
  }

  private String results(String runs) {
    return "(select r.*, u.stream_id, coalesce(n.now, r.test_id) as now from result r join run u"
        + " on u.id = r.run_id left join "
        + names
        + " on n.stream_id = u.stream_id and n.test_id = r.test_id where r.run_id = any("
        + runs
        + ") and not r.superseded and r.kind = 0) r";
  }

  /** Of each outcome, by its number. */
  private static String outcomes(String codes) {
    return Stream.of(codes.split(", "))
        .map(
            code ->
                "(select count(*) from result r where r.run_id = u.id and not r.superseded"
                    + " and r.kind = 0 and r.outcome = "
                    + code
                    + ")")
        .collect(Collectors.joining(", "));
  }

  /**
   * Of each test that was fixed, the time since the first of the runs before it, one after the
   * other, in which it failed under any of its names.
   */
  private String mended(String runs, String at) {
    String its = "coalesce(n.now, c.test_id)";
    return "with recursive failing as (select c.run_id, c.change, u.stream_id, u.previous_id, "
        + its
        + " as now from run_change c join run u on u.id = c.run_id left join "
        + names
        + " on n.stream_id = u.stream_id and n.test_id = c.test_id where c.change in (1, 2)),"
        + " fixed as (select u.id, c.test_id, "
        + its
        + " as now, u.started_at, u.previous_id from run_change c join run u on u.id = c.run_id"
        + " left join "
        + names
        + " on n.stream_id = u.stream_id and n.test_id = c.test_id where c.change = 3"
        + " and u.id = any("
        + runs
        + ")), back as (select id, test_id, now, started_at, previous_id as run from fixed union"
        + " select b.id, b.test_id, b.now, b.started_at, f.previous_id from back b join failing f"
        + " on f.run_id = b.run and f.now = b.now and f.change = 2),"
        + " u as (select b.id, b.test_id, b.started_at, max(extract(epoch from b.started_at -"
        + " r.started_at)) as took from back b join run r on r.id = b.run group by 1, 2, 3)"
        + " select concat_ws(' ', "
        + at
        + ", round(percentile_cont(0.5) within group (order by took)), round(avg(took)), count(*))"
        + " from u group by "
        + at;
  }

  /** A line for each row that a panel has to tell; null for kinds that are counted elsewhere. */
  @Nullable TreeSet<String> lines(Panel panel, Collection<Long> of, Period period) {
    String runs =
        of.stream().map(String::valueOf).collect(Collectors.joining(",", "'{", "}'::int[]"));
    String at =
        "to_char(date_trunc('"
            + panel.step().word()
            + "', u.started_at at time zone 'UTC'), 'YYYY-MM-DD\"T\"HH24:MI:SS\"Z\"')";
    String sql =
        switch (panel.kind()) {
          case WORST ->
              "select concat_ws(' ', now, "
                  + failing("= 1")
                  + ", "
                  + failing("= 2")
                  + ", count(distinct run_id)) from "
                  + results(runs)
                  + " where r.outcome in (1, 2) group by now";
          case FLAKY ->
              "select concat_ws(' ', b.test_id, s.name, "
                  + failing("in (1, 2)")
                  + ", count(*) filter (where r.outcome = 0 and r.attempts > 1))"
                  + " from test_belief b join stream s on s.id = b.stream_id left join "
                  + results(runs)
                  + " on r.stream_id = b.stream_id and r.now = b.test_id where b.verdict = "
                  + org.vinecellar.core.trust.flaky.Verdict.FLAKY.code()
                  + " and exists (select 1 from run u where u.stream_id = s.id and u.id = any("
                  + runs
                  + ")) group by b.test_id, s.name";
          case GROWTH ->
              "select concat_ws(' ', "
                  + at
                  + ", count(*) filter (where c.change = 5),"
                  + " count(distinct c.test_id) filter (where c.change = 6),"
                  + " count(*) filter (where c.change = 7), count(*) filter (where c.change = 1),"
                  + " count(*) filter (where c.change = 3)) from run_change c join run u"
                  + " on u.id = c.run_id where c.change in (1, 3, 5, 6, 7) and u.id = any("
                  + runs
                  + ") group by "
                  + at;
          case GROUPS ->
              "select concat_ws(' ', f.group_id, count(*), count(*) filter (where"
                  + " f.decision_id is null), count(distinct u.id), count(distinct u.stream_id))"
                  + " from failure f join run u on u.id = f.run_id where u.id = any("
                  + runs
                  + ") group by f.group_id";
          case TICKETS ->
              "select concat_ws(' ', t.key, count(distinct f.group_id), count(*),"
                  + " count(distinct f.run_id)) from failure f join group_ticket g"
                  + " on g.group_id = f.group_id join ticket t on t.id = g.ticket_id"
                  + " and t.project_id = g.project_id where f.run_id = any("
                  + runs
                  + ") group by t.key";
          case PEOPLE ->
              "select concat_ws(' ', who, sum(said), sum(has)) from (select made_by as who,"
                  + " count(distinct d.group_id) as said, 0 as has from decision d"
                  + " where undone_at is null and made_at >= '"
                  + period.from()
                  + "' and made_at < '"
                  + period.to()
                  + "' and exists (select 1 from failure f where f.group_id = d.group_id) group by 1"
                  + " union all select assigned_to, 0, count(*) from failure_group g where assigned_to"
                  + " is not null and exists (select 1 from failure f where f.group_id = g.id and"
                  + " f.decision_id is null) group by 1) p group by who";
          case CAUSES ->
              "select concat_ws(' ', "
                  + at
                  + ", coalesce(c.name, 'unsorted'), count(*)) from failure f join run u"
                  + " on u.id = f.run_id left join decision d on d.project_id = u.project_id"
                  + " and d.id = f.decision_id left join category c on c.project_id = u.project_id"
                  + " and c.id = d.category_id where f.outcome <> 0 and u.id = any("
                  + runs
                  + ") group by "
                  + at
                  + ", c.name";
          case LATEST ->
              "select concat_ws(' ', s.name || '#' || u.number, "
                  + outcomes("0, 3, 4, 1, 2")
                  + ", (select count(*) from run_change c where c.run_id = u.id and c.change = 1),"
                  + " (select count(*) from run_change c where c.run_id = u.id and c.change = 3))"
                  + " from run u join stream s on s.id = u.stream_id where u.id = any("
                  + runs
                  + ") order by u.started_at desc, u.number desc limit 1";
          case SLOWEST -> slow("f.millis is not null", "round(f.millis)", runs);
          case SLOWING ->
              slow("f.slower_run_id is not null", "round(f.millis), round(f.before_millis)", runs);
          case MENDING -> mended(runs, at);
          default -> null;
        };
    return sql == null ? null : new TreeSet<>(store.texts(sql));
  }

  /** The same lines of what was told. */
  static TreeSet<String> told(Panel panel, Sheet sheet) {
    TreeSet<String> lines = new TreeSet<>();
    for (Sheet.Row row : sheet.rows()) {
      List<Sheet.Cell> cells = row.cells();
      switch (panel.kind()) {
        case WORST -> lines.add(line(subject(cells), cells.subList(2, 5)));
        case FLAKY ->
            lines.add(line(subject(cells) + " " + cells.get(1).text(), cells.subList(3, 5)));
        case GROUPS -> lines.add(line(subject(cells), cells.subList(1, 5)));
        case TICKETS -> lines.add(line(cells.get(0).text(), cells.subList(3, 6)));
        case PEOPLE -> lines.add(line(cells.get(0).text(), cells.subList(1, 3)));
        case LATEST -> lines.add(line(cells.get(1).text(), cells.subList(2, 9)));
        case SLOWEST -> lines.add(line(slow(cells), millis(cells, 1)));
        case SLOWING -> lines.add(line(slow(cells), millis(cells, 2)));
        case MENDING -> {
          if (number(cells.get(3)) > 0) {
            lines.add(line(cells.get(0).text(), cells.subList(1, 4)));
          }
        }
        case GROWTH -> {
          if (cells.subList(1, 6).stream().anyMatch(cell -> number(cell) > 0)) {
            lines.add(line(cells.get(0).text(), cells.subList(1, 6)));
          }
        }
        case CAUSES -> {
          for (int i = 1; i < cells.size(); i++) {
            Sheet.Column column = sheet.columns().get(i);
            String of = column.values().isEmpty() ? column.key() : column.values().get(0);
            if (number(cells.get(i)) > 0) {
              lines.add(cells.get(0).text() + " " + of + " " + number(cells.get(i)));
            }
          }
        }
        default -> throw new IllegalArgumentException(panel.kind().word());
      }
    }
    return lines;
  }

  private static String slow(List<Sheet.Cell> cells) {
    return subject(cells) + " " + cells.get(1).text();
  }

  private static List<Sheet.Cell> millis(List<Sheet.Cell> cells, int many) {
    return cells.subList(2, 2 + many).stream()
        .map(cell -> Sheet.Cell.of(Objects.requireNonNull(cell.number()) * 1e3, null))
        .toList();
  }

  /** The number of what a row leads to. */
  private static String subject(List<Sheet.Cell> cells) {
    String filter = Objects.requireNonNull(cells.get(0).link()).filter();
    return filter.substring(filter.lastIndexOf(' ') + 1);
  }

  private static String line(@Nullable String first, List<Sheet.Cell> numbers) {
    return first + numbers.stream().map(cell -> " " + number(cell)).collect(Collectors.joining());
  }

  /** Nothing is told where no run was. */
  private static long number(Sheet.Cell cell) {
    return cell.number() == null ? 0 : Math.round(cell.number());
  }
}
