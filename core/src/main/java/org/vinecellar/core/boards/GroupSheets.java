package org.vinecellar.core.boards;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.Change;
import org.vinecellar.core.filters.JsonText;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.triage.decisions.Ticket;

/** Sheets of failure groups, and of what people did for them. */
public final class GroupSheets {
  private GroupSheets() {}

  /** Groups by how much they have. */
  static Sheet groups(List<GroupReach> groups, Sheets.Asked asked) {
    RunLinks links = asked.links(asked.period(), List.of());
    List<Sheet.Row> rows = new ArrayList<>();
    for (GroupReach one : groups) {
      String its = "group eq " + one.group();
      rows.add(
          new Sheet.Row(
              List.of(
                  new Sheet.Cell(
                      one.title().text(),
                      null,
                      null,
                      null,
                      new Sheet.Link(Thing.GROUP, "number eq " + one.group())),
                  Sheet.Cell.of(one.results(), links.results(its)),
                  Sheet.Cell.of(one.open(), links.results(its + " and not (decision pr)")),
                  Sheet.Cell.of(one.runs(), links.runs("results[" + its + "]")),
                  Sheet.Cell.of(one.streams(), null),
                  Sheet.Cell.of(
                      one.tickets().stream()
                          .map(ticket -> ticket.key() == null ? ticket.title() : ticket.key())
                          .collect(Collectors.joining(", "))))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("group", Sheet.Unit.TEXT),
            Sheet.Column.of("failures", Sheet.Unit.COUNT),
            Sheet.Column.of("unsorted", Sheet.Unit.COUNT),
            Sheet.Column.of("runs", Sheet.Unit.COUNT),
            Sheet.Column.of("streams", Sheet.Unit.COUNT),
            Sheet.Column.of("tickets", Sheet.Unit.TEXT)),
        rows);
  }

  /** Tickets by how many failures they stand for. */
  public static Sheet tickets(List<TicketReach> tickets, Sheets.Asked asked) {
    RunLinks links = asked.links(asked.period(), List.of());
    List<Sheet.Row> rows = new ArrayList<>();
    for (TicketReach one : tickets) {
      Ticket ticket = one.ticket();
      String key = ticket.key();
      String its = key == null ? null : "[key eq " + JsonText.quoted(key) + "]";
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(key == null ? "waits" : key),
                  Sheet.Cell.of(ticket.title()),
                  Sheet.Cell.of(ticket.state() == null ? "not told" : ticket.state()),
                  Sheet.Cell.of(
                      one.groups(),
                      its == null
                          ? null
                          : new Sheet.Link(Thing.GROUP, "ticket" + its + " and " + inRuns(links))),
                  Sheet.Cell.of(
                      one.results(), its == null ? null : links.results("group.ticket" + its)),
                  Sheet.Cell.of(
                      one.runs(),
                      its == null ? null : links.runs("results[group.ticket" + its + "]")))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("ticket", Sheet.Unit.TEXT),
            Sheet.Column.of("title", Sheet.Unit.TEXT),
            Sheet.Column.of("state", Sheet.Unit.TEXT),
            Sheet.Column.of("groups", Sheet.Unit.COUNT),
            Sheet.Column.of("failures", Sheet.Unit.COUNT),
            Sheet.Column.of("runs", Sheet.Unit.COUNT)),
        rows);
  }

  private static String inRuns(RunLinks links) {
    return "results[run[" + links.pick() + "]]";
  }

  /**
   * How long it took until groups were explained, by when they were found.
   *
   * @param filter of runs of which they have one; blank for any
   */
  static Sheet explaining(List<ExplainedCell> cells, Step step, Period period, String filter) {
    Map<Instant, ExplainedCell> by = new HashMap<>();
    cells.forEach(cell -> by.put(cell.at(), cell));
    List<Sheet.Row> rows = new ArrayList<>();
    for (Instant at = step.begin(period.from()); at.isBefore(period.to()); at = step.next(at)) {
      ExplainedCell cell = by.get(at);
      Period in = step.within(at, period);
      String found =
          "found ge "
              + JsonText.quoted(in.from().toString())
              + " and found lt "
              + JsonText.quoted(in.to().toString())
              + (filter.isBlank() ? "" : " and results[run[" + filter + "]]");
      Sheet.Link explained = new Sheet.Link(Thing.GROUP, found + " and decision pr");
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(at.toString()),
                  seconds(cell == null ? null : cell.median(), explained),
                  seconds(cell == null ? null : cell.mean(), explained),
                  Sheet.Cell.of(
                      cell == null ? 0 : cell.groups(), new Sheet.Link(Thing.GROUP, found)),
                  Sheet.Cell.of(cell == null ? 0 : cell.explained(), explained))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("at", Sheet.Unit.TIME),
            Sheet.Column.of("median", Sheet.Unit.SECONDS),
            Sheet.Column.of("mean", Sheet.Unit.SECONDS),
            Sheet.Column.of("groups", Sheet.Unit.COUNT),
            Sheet.Column.of("explained", Sheet.Unit.COUNT)),
        rows);
  }

  /** How long it took until tests that failed passed again, by when they did. */
  static Sheet mending(List<MendedCell> cells, Step step, Sheets.Asked asked) {
    Map<Instant, MendedCell> by = new HashMap<>();
    cells.forEach(cell -> by.put(cell.at(), cell));
    List<Sheet.Row> rows = new ArrayList<>();
    Period period = asked.period();
    for (Instant at = step.begin(period.from()); at.isBefore(period.to()); at = step.next(at)) {
      MendedCell cell = by.get(at);
      Sheet.Link fixed = asked.links(step.within(at, period), List.of()).changed(Change.FIXED);
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(at.toString()),
                  seconds(cell == null ? null : cell.median(), fixed),
                  seconds(cell == null ? null : cell.mean(), fixed),
                  Sheet.Cell.of(cell == null ? 0 : cell.tests(), fixed))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("at", Sheet.Unit.TIME),
            Sheet.Column.of("median", Sheet.Unit.SECONDS),
            Sheet.Column.of("mean", Sheet.Unit.SECONDS),
            Sheet.Column.of("fixed", Sheet.Unit.COUNT)),
        rows);
  }

  private static Sheet.Cell seconds(@Nullable Double seconds, Sheet.Link link) {
    return seconds == null ? Sheet.Cell.EMPTY : Sheet.Cell.of(seconds, link);
  }

  /** Who explained how much. */
  static Sheet people(List<PersonCell> people, Period period) {
    List<Sheet.Row> rows = new ArrayList<>();
    for (PersonCell one : people) {
      String who = JsonText.quoted(one.who());
      rows.add(
          new Sheet.Row(
              List.of(
                  Sheet.Cell.of(one.who()),
                  Sheet.Cell.of(
                      one.explained(),
                      new Sheet.Link(
                          Thing.GROUP,
                          "decision[by eq "
                              + who
                              + " and made ge "
                              + JsonText.quoted(period.from().toString())
                              + " and made lt "
                              + JsonText.quoted(period.to().toString())
                              + "]")),
                  Sheet.Cell.of(
                      one.assigned(),
                      new Sheet.Link(Thing.GROUP, "assigned eq " + who + " and unsorted gt 0")))));
    }
    return new Sheet(
        List.of(
            Sheet.Column.of("who", Sheet.Unit.TEXT),
            Sheet.Column.of("explained", Sheet.Unit.COUNT),
            Sheet.Column.of("still to explain", Sheet.Unit.COUNT)),
        rows);
  }
}
