package org.vinecellar.bench.grouping;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.grouping.KnownGroup;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/**
 * Goes through a stream as the portal and a person would, run by run, and scores what came of it.
 */
final class Judge {
  private final Map<GroupKey, List<KnownGroup>> known = new HashMap<>();
  private final Map<Long, KnownGroup> groups = new HashMap<>();
  private final Map<Long, Map<String, Set<String>>> decided = new HashMap<>();
  private final Map<Long, String> names = new TreeMap<>();
  private final List<Scores.Judged> judged = new ArrayList<>();
  private final Map<String, Map<Long, Integer>> pieces = new TreeMap<>();

  private record Truth(String cause, String kind) {}

  private record Placed(
      Truth truth,
      String test,
      long group,
      KeyKind kind,
      boolean byKey,
      boolean carries,
      boolean first) {}

  /** The score of a stream. */
  Scores.Score of(Path directory) throws IOException {
    Map<Integer, Map<String, Truth>> truth = truth(directory.resolve("truth.jsonl"));
    Set<String> seen = new HashSet<>();
    for (Map.Entry<Integer, Map<String, Truth>> run : truth.entrySet()) {
      run(
          directory.resolve(String.format("runs/run-%04d", run.getKey())),
          run.getKey(),
          run.getValue(),
          seen);
    }
    return Scores.of(judged);
  }

  private static Map<Integer, Map<String, Truth>> truth(Path file) throws IOException {
    ObjectMapper json = new ObjectMapper();
    Map<Integer, Map<String, Truth>> truth = new TreeMap<>();
    for (String line : Files.readAllLines(file)) {
      JsonNode node = json.readTree(line);
      truth
          .computeIfAbsent(node.get("run").asInt(), k -> new LinkedHashMap<>())
          .put(
              node.get("test").asText(),
              new Truth(node.get("cause_id").asText(), node.get("cause_kind").asText()));
    }
    return truth;
  }

  private void run(Path folder, int number, Map<String, Truth> truth, Set<String> seen)
      throws IOException {
    List<Path> files;
    try (var all = Files.list(folder)) {
      files = all.filter(f -> f.toString().endsWith(".xml")).sorted().toList();
    }
    List<TestResult> results = ResultFiles.read(files);
    Signer signer =
        new Signer(
            CodeMap.of(
                results.stream().map(r -> r.test().suite().name()).distinct().toList(),
                CodeSettings.NONE));
    List<Signature> signatures = new ArrayList<>();
    List<TestResult> failing = new ArrayList<>();
    for (TestResult result : results) {
      if (result.outcome().isFailing()) {
        Attempt last = result.attempts().get(result.attempts().size() - 1);
        failing.add(result);
        signatures.add(signer.sign(result.test(), last.failures()));
      }
    }
    List<Signature> settled = Grouping.settled(signatures);
    Grouping.Result placed = Grouping.of(settled, key -> known.getOrDefault(key, List.of()));
    Map<String, Long> ids = enter(placed);
    List<Placed> run = new ArrayList<>();
    for (int i = 0; i < failing.size(); i++) {
      TestResult result = failing.get(i);
      String test = result.test().suite().name() + "#" + result.test().displayName();
      Truth cause = truth.get(test);
      if (cause == null) {
        throw new IllegalStateException("nobody knows why " + test + " fails");
      }
      Grouping.Placed where = placed.of().get(settled.get(i).key());
      if (where == null) {
        throw new IllegalStateException(test + " has no group");
      }
      long group = ids.getOrDefault(where.first().key(), -1L);
      run.add(
          new Placed(
              cause,
              test,
              group,
              settled.get(i).kind(),
              where.joined() == Grouping.Joined.KEY,
              where.carries(settled.get(i)),
              seen.add(cause.cause)));
      pieces.computeIfAbsent(cause.cause, k -> new TreeMap<>()).merge(group, 1, Integer::sum);
    }
    decide(number, run);
  }

  private Map<String, Long> enter(Grouping.Result placed) {
    Map<String, Long> ids = new HashMap<>();
    placed
        .of()
        .values()
        .forEach(
            one -> {
              String first = one.first().key();
              long id =
                  ids.computeIfAbsent(
                      first,
                      k -> one.known() == null ? (long) groups.size() + 1 : one.known().id());
              KnownGroup group =
                  groups.computeIfAbsent(
                      id, k -> new KnownGroup(id, one.first().kind(), one.first().words()));
              names.putIfAbsent(id, first);
              Set<GroupKey> keys = placed.keys().getOrDefault(first, Set.of());
              for (GroupKey key : keys) {
                List<KnownGroup> with = known.computeIfAbsent(key, k -> new ArrayList<>());
                if (!with.contains(group)) {
                  with.add(group);
                }
              }
            });
    return ids;
  }

  /**
   * First what is carried on arrival, then what a person decides of the first ones, and carries.
   */
  private void decide(int number, List<Placed> run) {
    Map<Placed, String> stands = new HashMap<>();
    Map<Placed, String> arrived = new HashMap<>();
    for (Placed one : run) {
      String carried = carried(one);
      if (carried != null) {
        stands.put(one, carried);
        arrived.put(one, carried);
      }
    }
    for (Placed one : run) {
      if (one.first) {
        decided
            .computeIfAbsent(one.group, k -> new TreeMap<>())
            .computeIfAbsent(one.truth.cause, k -> new HashSet<>())
            .add(one.test);
        stands.put(one, one.truth.cause);
        for (Placed other : run) {
          if (!stands.containsKey(other) && other.group == one.group && carried(other) != null) {
            stands.put(other, carried(other));
          }
        }
      }
    }
    for (Placed one : run) {
      judged.add(
          new Scores.Judged(
              number,
              one.truth.cause,
              one.truth.kind,
              one.group,
              one.first,
              one.first ? arrived.get(one) : stands.get(one)));
    }
  }

  /** What stands of the one decision on the group, where it may be carried; null for none. */
  private @Nullable String carried(Placed one) {
    Map<String, Set<String>> on = decided.getOrDefault(one.group, Map.of());
    if (on.size() != 1) {
      return null;
    }
    Map.Entry<String, Set<String>> only = on.entrySet().iterator().next();
    return one.carries || one.byKey && only.getValue().contains(one.test) ? only.getKey() : null;
  }

  /** Causes in several groups, and groups of several causes, the worst first. */
  void tell(int most) {
    Map<Long, Map<String, Integer>> causes = new TreeMap<>();
    pieces.forEach(
        (cause, some) ->
            some.forEach(
                (group, n) -> causes.computeIfAbsent(group, k -> new TreeMap<>()).put(cause, n)));
    System.out.println("groups of several causes");
    causes.entrySet().stream()
        .filter(e -> e.getValue().size() > 1)
        .sorted((a, b) -> b.getValue().size() - a.getValue().size())
        .limit(most)
        .forEach(
            e -> System.out.println("  " + shown(names.get(e.getKey())) + "  <-  " + e.getValue()));
    System.out.println("causes in several groups");
    pieces.entrySet().stream()
        .filter(e -> e.getValue().size() > 1)
        .sorted((a, b) -> b.getValue().size() - a.getValue().size())
        .limit(most)
        .forEach(
            e -> {
              System.out.println("  " + e.getKey());
              e.getValue().entrySet().stream()
                  .limit(6)
                  .forEach(
                      g ->
                          System.out.println(
                              "      " + g.getValue() + "  " + shown(names.get(g.getKey()))));
            });
  }

  private static String shown(@Nullable String key) {
    String plain = key == null ? "" : key.replace('\n', '⏎');
    return plain.length() > 150 ? plain.substring(0, 150) + "…" : plain;
  }
}
