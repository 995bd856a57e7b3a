package org.vinecellar.core.trust.renames;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** How many tests of the same names went from each suite and came into each other one. */
final class SuiteMoves {
  private record Way(List<String> from, List<String> to) {}

  private record Key(String name, String parameters, Map<String, String> variant) {
    static Key of(Face face) {
      return new Key(face.name(), String.valueOf(face.parameters()), face.variant());
    }
  }

  /** A name that more have tells no way. */
  private static final long PAIRS = 2_500;

  private final Map<Way, Integer> ways = new HashMap<>();
  private final Map<List<String>, Integer> went = new HashMap<>();
  private final Map<List<String>, Integer> came = new HashMap<>();
  private final Map<Key, List<Face>> goneByKey;
  private final Map<Key, List<Face>> cameByKey;

  SuiteMoves(List<Face> gone, List<Face> now) {
    gone.forEach(face -> went.merge(face.suite(), 1, Integer::sum));
    now.forEach(face -> came.merge(face.suite(), 1, Integer::sum));
    goneByKey = gone.stream().collect(Collectors.groupingBy(Key::of));
    cameByKey = now.stream().collect(Collectors.groupingBy(Key::of));
    goneByKey.forEach(
        (key, faces) -> {
          List<Face> same = cameByKey.getOrDefault(key, List.of());
          if ((long) same.size() * faces.size() > PAIRS) {
            return;
          }
          for (Face to : same) {
            for (Face from : faces) {
              ways.merge(new Way(from.suite(), to.suite()), 1, Integer::sum);
            }
          }
        });
  }

  /** Tests that came and have the name of one that went. */
  List<Face> withNameOf(Face gone) {
    return cameByKey.getOrDefault(Key.of(gone), List.of());
  }

  /** Whether only one test went and only one came that is called so. */
  boolean isOnlyOne(Face gone) {
    return withNameOf(gone).size() == 1
        && goneByKey.getOrDefault(Key.of(gone), List.of()).size() == 1;
  }

  /** How many tests seem to have gone that way. */
  int together(Face gone, Face now) {
    return ways.getOrDefault(new Way(gone.suite(), now.suite()), 0);
  }

  /** Whether a suite, or what went of it, seems to have become another one. */
  boolean isWay(Face gone, Face now) {
    int together = together(gone, now);
    int least = Math.min(went.getOrDefault(gone.suite(), 0), came.getOrDefault(now.suite(), 0));
    return together >= 2 && together * 2 >= least;
  }

  /** The suites to which some went. */
  Set<List<String>> from(List<String> suite) {
    return ways.keySet().stream()
        .filter(way -> way.from.equals(suite))
        .map(Way::to)
        .collect(Collectors.toSet());
  }
}
