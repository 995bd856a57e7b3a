package org.vinecellar.store.triage.rules;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.RuleTrial;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.store.sql.Ids;

/** Tries a rule on the latest runs that have failures, and changes nothing. */
final class RuleTrying {
  private static final Duration PATIENCE = Duration.ofSeconds(8);
  private static final int MOST_FAILURES = 20_000;
  private static final int GROUPS = 50;

  private static final String RUNS =
      "select r.id from run r where r.project_id = ? and r.number is not null"
          + " and r.deleted_at is null and exists (select 1 from group_run gr"
          + " where gr.project_id = r.project_id and gr.run_id = r.id)"
          + " order by r.started_at desc, r.id desc limit ?";

  private static final String FAILURES =
      "select f.place, f.group_id, f.origin, d.rule_id, c.name as category, exists (select 1"
          + " from decision e where e.project_id = r.project_id and e.group_id = f.group_id"
          + " and e.undone_at is null and e.scope in (1, 2) and e.ends_at <= r.started_at)"
          + " as returned, exists (select 1 from decision e where e.project_id = r.project_id"
          + " and e.group_id = f.group_id and e.rule_barred and e.rule_id = ?) as barred"
          + " from run r join failure f on f.run_id = r.id left join decision d"
          + " on d.project_id = r.project_id and d.id = f.decision_id left join category c"
          + " on c.project_id = r.project_id and c.id = d.category_id"
          + " where r.project_id = ? and r.id = ?";

  private final DSLContext dsl;
  private final int projectId;
  private final @Nullable Long rule;
  private final RuleMatching matching;

  private final Map<Said, Integer> said = new LinkedHashMap<>();
  private final Map<Long, Sums> groups = new HashMap<>();
  private int runs;
  private int failures;
  private int fits;
  private int would;

  private record Said(String category, DecisionOrigin origin, boolean own) {}

  /** What is counted of a group. */
  private static final class Sums {
    private final Map<String, Integer> said = new HashMap<>();
    private boolean returned;
    private int fits;
    private int would;
    private int results;
  }

  /**
   * @param rule that would be replaced; null for a new one
   */
  RuleTrying(DSLContext dsl, int projectId, RuleDraft draft, @Nullable Long rule, Instant now) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.rule = rule;
    this.matching = new RuleMatching(dsl, projectId, List.of(draft), now, PATIENCE);
  }

  RuleTrial on(int latest) {
    List<Long> ids = dsl.fetch(RUNS, projectId, latest).getValues(0, Long.class);
    for (long run : ids) {
      if (failures >= MOST_FAILURES || matching.left() > 0 || !matching.troubles().isEmpty()) {
        break;
      }
      add(run);
    }
    return new RuleTrial(
        runs, failures, fits, would, said(), lines(), touched().size(), stopped(ids.size()));
  }

  private void add(long run) {
    Map<Integer, Record> rows = new LinkedHashMap<>();
    dsl.fetch(FAILURES, rule, projectId, run)
        .forEach(row -> rows.put(row.get("place", Integer.class), row));
    Set<Integer> fitting = matching.first(run, rows.keySet(), (place, one) -> true).keySet();
    runs++;
    failures += rows.size();
    rows.forEach(
        (place, row) -> {
          Sums sums = groups.computeIfAbsent(row.get("group_id", Long.class), k -> new Sums());
          sums.results++;
          if (fitting.contains(place)) {
            fits(row, sums);
          }
        });
  }

  private void fits(Record row, Sums sums) {
    fits++;
    sums.fits++;
    sums.returned |= row.get("returned", Boolean.class);
    String category = row.get("category", String.class);
    DecisionOrigin origin = DecisionOrigin.ofCode(row.get("origin", Integer.class));
    if (category != null && origin != null) {
      boolean own = rule != null && rule.equals(row.get("rule_id", Long.class));
      said.merge(new Said(category, origin, own), 1, Integer::sum);
      sums.said.merge(category, 1, Integer::sum);
    } else if (!row.get("returned", Boolean.class) && !row.get("barred", Boolean.class)) {
      would++;
      sums.would++;
    }
  }

  private List<RuleTrial.Said> said() {
    return said.entrySet().stream()
        .map(
            one ->
                new RuleTrial.Said(
                    one.getKey().category, one.getKey().origin, one.getKey().own, one.getValue()))
        .sorted(Comparator.comparingInt(RuleTrial.Said::results).reversed())
        .toList();
  }

  /** Those that it touches, with most first. */
  private List<Map.Entry<Long, Sums>> touched() {
    return groups.entrySet().stream()
        .filter(one -> one.getValue().fits > 0)
        .sorted(
            Comparator.<Map.Entry<Long, Sums>>comparingInt(one -> -one.getValue().would)
                .thenComparingInt(one -> -one.getValue().fits)
                .thenComparingLong(Map.Entry::getKey))
        .toList();
  }

  private List<RuleTrial.InGroup> lines() {
    List<Map.Entry<Long, Sums>> some = touched().stream().limit(GROUPS).toList();
    Map<Long, Record> rows = new HashMap<>();
    dsl.fetch(
            "select id, kind, sentence, template from failure_group where project_id = ?"
                + " and id = any(?)",
            projectId,
            Ids.of(some.stream().map(Map.Entry::getKey).toList()))
        .forEach(row -> rows.put(row.get("id", Long.class), row));
    List<RuleTrial.InGroup> lines = new ArrayList<>();
    some.forEach(one -> lines.add(line(one, Objects.requireNonNull(rows.get(one.getKey())))));
    return lines;
  }

  private static RuleTrial.InGroup line(Map.Entry<Long, Sums> one, Record row) {
    Sums sums = one.getValue();
    String most =
        sums.said.entrySet().stream()
            .max(
                Map.Entry.<String, Integer>comparingByValue()
                    .thenComparing(Map.Entry.comparingByKey()))
            .map(Map.Entry::getKey)
            .orElse(null);
    return new RuleTrial.InGroup(
        one.getKey(),
        KeyKind.ofCode(row.get("kind", Integer.class)),
        row.get("sentence", String.class),
        row.get("template", String.class),
        sums.fits,
        sums.would,
        sums.results,
        sums.returned,
        most);
  }

  private @Nullable String stopped(int all) {
    String trouble = matching.troubles().get(0);
    if (trouble != null) {
      return trouble;
    }
    if (matching.left() > 0) {
      return "there was no time to look at "
          + matching.left()
          + " failures of the last run looked at; try it on fewer runs";
    }
    return runs < all
        ? "after "
            + runs
            + " of "
            + all
            + " runs there were "
            + failures
            + " failures, enough to see"
        : null;
  }
}
