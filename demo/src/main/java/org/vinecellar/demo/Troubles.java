package org.vinecellar.demo;

import java.util.List;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.function.BiPredicate;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * What else goes wrong in the last nights: causes of every kind, some of them with many faces, some
 * that look like others. Whatever the story itself breaks stays as it is.
 */
final class Troubles {
  private static final String PAYING = "payments refunds vouchers";

  private static final List<Trouble> ALL =
      List.of(
          new Trouble(
              Set.of(31, 34), "booking-api/", area(PAYING), (s, c) -> WebFailures.refused(s, c)),
          new Trouble(
              nights(30, 35),
              "booking-api/",
              area("cabins pets"),
              (s, c) -> Failures.noDeck(s, c.name())),
          new Trouble(
              Set.of(33),
              "booking-api/",
              area("cars coaches freight"),
              (s, c) -> WebFailures.deckClosed(s, c)),
          new Trouble(
              nights(33, 35),
              "booking-api/nightly",
              (s, c) -> c.name().equals("appearsOnTheInvoice"),
              (s, c) -> Failures.invoice(s, c.name())),
          new Trouble(
              nights(32, 33),
              "booking-api/nightly",
              (s, c) -> s.equals(Catalog.STORE),
              (s, c) -> Failures.noRelation(s, c.name())),
          new Trouble(
              nights(29, 35),
              "quayside-kiosk/",
              (s, c) -> c.name().contains("_ticket") || c.name().startsWith("test_cancel_"),
              (s, c) -> WebFailures.covered(c.name())),
          new Trouble(
              Set.of(31),
              "deckhand-app/",
              (s, c) -> s.equals("Crew sign-on"),
              (s, c) -> WebFailures.certificate(c.name())),
          new Trouble(
              nights(32, 35),
              "timetable-rules/",
              (s, c) -> c.name().startsWith("Extra sailings"),
              (s, c) -> announcement()),
          new Trouble(
              nights(31, 35),
              "fare-tables/",
              (s, c) -> c.name().contains("Långskär"),
              (s, c) -> Failures.noFare(c.name())));

  /** One cause: when, where, and how it is told. */
  private record Trouble(
      Set<Integer> nights,
      String streams,
      BiPredicate<String, Case> tests,
      BiFunction<String, Case, Case.Failure> failure) {}

  private Troubles() {}

  static List<Suite> in(String stream, int night, List<Suite> suites) {
    List<Trouble> now =
        ALL.stream()
            .filter(one -> one.nights.contains(night) && stream.startsWith(one.streams))
            .toList();
    return suites.stream()
        .map(suite -> suite.each(one -> troubled(now, suite.name(), one)))
        .toList();
  }

  private static Case troubled(List<Trouble> now, String suite, Case one) {
    if (one.failure() != null || one.skipped() != null) {
      return one;
    }
    return now.stream()
        .filter(trouble -> trouble.tests.test(suite, one))
        .findFirst()
        .map(trouble -> one.failing(trouble.failure.apply(suite, one)))
        .orElse(one);
  }

  private static Set<Integer> nights(int first, int last) {
    return IntStream.rangeClosed(first, last).boxed().collect(Collectors.toSet());
  }

  private static BiPredicate<String, Case> area(String areas) {
    List<String> all = List.of(areas.split(" "));
    return (suite, one) -> all.stream().anyMatch(area -> suite.contains("." + area + "."));
  }

  private static Case.Failure announcement() {
    return new Case.Failure(
        false,
        "AssertionError",
        "Then it is announced by 23 May\n  expected an announcement, found none",
        "Given an extra sailing on 30 May\nWhen the plan of May is published\n"
            + "Then it is announced by 23 May   # steps/announcements.rb:41");
  }
}
