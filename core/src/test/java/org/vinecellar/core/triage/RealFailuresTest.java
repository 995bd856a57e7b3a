package org.vinecellar.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.grouping.KnownGroup;
import org.vinecellar.core.triage.signature.Signature;

/** Programs in ten languages that really failed, each cause in several tests. */
class RealFailuresTest {
  private static final List<String> FILES =
      List.of(
          "asan.xml",
          "bats.xml",
          "catch.xml",
          "elixir.xml",
          "go.json",
          "gtest.xml",
          "jest.xml",
          "minitest.xml",
          "node.xml",
          "phpunit.xml",
          "python-long.xml",
          "python-native.xml",
          "python-short.xml",
          "rspec.json",
          "rust.xml");

  /**
   * A source map of Jest calls two functions by what they call, and PHPUnit tells files without
   * functions; C++ tells of a throw without saying where, or quotes the call.
   */
  @ParameterizedTest
  @CsvSource(
      nullValues = "-",
      value = {
        "asan.xml, -, -",
        "bats.xml, -, -",
        "catch.xml, -, height",
        "elixir.xml, -, -",
        "go.json, -, -",
        "gtest.xml, -, height",
        "jest.xml, fares_currency fares_season, -",
        "minitest.xml, -, -",
        "node.xml, -, -",
        "phpunit.xml, fare_table_currency fare_table_season, -",
        "python-long.xml, -, -",
        "python-native.xml, -, -",
        "python-short.xml, -, -",
        "python-long.xml python-native.xml python-short.xml, -, -",
        "rspec.json, -, -",
        "rspec.json minitest.xml, -, bare_seats bare_total fare_table_priced",
        "rust.xml, -, -"
      })
  void oneCauseIsOneKey(String files, String merged, String split) {
    Map<String, Set<String>> keys = new TreeMap<>();
    Map<String, Set<String>> causes = new TreeMap<>();
    for (Failing one : Failing.of(List.of(files.split(" ")))) {
      keys.computeIfAbsent(one.cause(), k -> new TreeSet<>()).add(one.signature().key());
      causes.computeIfAbsent(one.signature().key(), k -> new TreeSet<>()).add(one.cause());
    }
    Set<String> together = new TreeSet<>();
    causes.values().stream().filter(some -> some.size() > 1).forEach(together::addAll);
    Set<String> apart = new TreeSet<>();
    keys.forEach(
        (cause, some) -> {
          if (some.size() > 1) {
            apart.add(cause);
          }
        });
    assertThat(String.join(" ", together))
        .as("causes with one key: %s", causes)
        .isEqualTo(words(merged));
    assertThat(String.join(" ", apart)).as("causes with several: %s", keys).isEqualTo(words(split));
  }

  private static String words(String given) {
    return given == null ? "" : given;
  }

  @Test
  void groupsDoNotDependOnTheOrderOfFailures() {
    List<Failing> all = Failing.of(FILES);
    Map<String, Set<String>> once = partition(all, Map.of());
    Random random = new Random(11);
    for (int i = 0; i < 30; i++) {
      List<Failing> mixed = new ArrayList<>(all);
      java.util.Collections.shuffle(mixed, random);
      assertThat(partition(mixed, Map.of())).isEqualTo(once);
    }
  }

  @Test
  void theSameFailuresComeIntoTheSameGroupsAgain() {
    List<Failing> all = Failing.of(FILES);
    List<Signature> settled = Grouping.settled(all.stream().map(Failing::signature).toList());
    Grouping.Result first = Grouping.of(settled, key -> List.of());
    Map<GroupKey, List<KnownGroup>> known = new HashMap<>();
    Map<String, KnownGroup> groups = new HashMap<>();
    first
        .keys()
        .forEach(
            (key, keys) -> {
              KnownGroup group =
                  groups.computeIfAbsent(
                      key,
                      k ->
                          new KnownGroup(
                              groups.size() + 1, first.of().get(k).first().kind(), List.of()));
              keys.forEach(one -> known.computeIfAbsent(one, k -> new ArrayList<>()).add(group));
            });
    Grouping.Result again = Grouping.of(settled, key -> known.getOrDefault(key, List.of()));
    again
        .of()
        .forEach(
            (key, placed) -> {
              KnownGroup before = groups.get(first.of().get(key).first().key());
              assertThat(placed.known()).as(key).isEqualTo(before);
            });
  }

  private static Map<String, Set<String>> partition(
      List<Failing> failures, Map<GroupKey, List<KnownGroup>> known) {
    List<Signature> settled = Grouping.settled(failures.stream().map(Failing::signature).toList());
    Grouping.Result result = Grouping.of(settled, key -> known.getOrDefault(key, List.of()));
    Map<String, Set<String>> groups = new TreeMap<>();
    for (int i = 0; i < failures.size(); i++) {
      String group = result.of().get(settled.get(i).key()).first().key();
      groups
          .computeIfAbsent(group, k -> new TreeSet<>())
          .add(failures.get(i).file() + failures.get(i).test());
    }
    return groups;
  }
}
