package org.vinecellar.demo;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;
import org.jspecify.annotations.Nullable;

/**
 * What happens in the 34 nights: the rounding of fares breaks in night 9, is mended in 15, breaks
 * again in 27 for three nights and once more at the end; the staging database is down in night 20;
 * a test of the kiosk flips all the time; the sailing search is renamed in night 18 and slows down
 * night by night; in night 24 the test data of boarding is missing; from night 31 on a test of the
 * kiosk has another name.
 */
final class Story {
  static final int NIGHTS = 34;

  private static final long SEED = 20_260_101L;

  private Story() {}

  static boolean roundingBroken(int night) {
    return (night >= 9 && night < 15) || (night >= 27 && night < 30) || night >= 33;
  }

  static boolean outage(int night) {
    return night == 20;
  }

  private static SplittableRandom dice(String stream, int night, String test) {
    return new SplittableRandom(
        SEED ^ (stream + "#" + night + "#" + test).hashCode() * 0x9E3779B9L);
  }

  static List<Suite> booking(String stream, List<Suite> quiet, int night) {
    List<Suite> suites = new ArrayList<>();
    for (Suite suite : quiet) {
      suites.add(jittered(stream, night, bookingSuite(suite, night)));
    }
    return suites;
  }

  private static Suite bookingSuite(Suite suite, int night) {
    if (outage(night) && !suite.name().contains(".fares.")) {
      Suite named = suite.name().equals(Catalog.SEARCH) ? search(suite, night) : suite;
      return named.each(one -> one.failing(Failures.outage(named.name())).taking(10.0));
    }
    return switch (suite.name()) {
      case Catalog.ROUNDING -> roundingBroken(night) ? rounding(suite, night) : suite;
      case Catalog.SEARCH -> search(suite, night);
      case Catalog.BOARDING -> boarding(suite, night);
      default -> others(suite, night);
    };
  }

  private static Suite rounding(Suite suite, int night) {
    int broken = night < 15 ? 3 : night < 30 ? 2 : night == 33 ? 3 : 4;
    List<Case> cases = new ArrayList<>(suite.cases());
    for (int i = 0; i < broken; i++) {
      Case one = cases.get(i);
      cases.set(i, one.failing(Failures.rounding(suite.name(), one.name(), 1250 + 37 * i)));
    }
    return new Suite(suite.name(), cases);
  }

  private static Suite search(Suite suite, int night) {
    Suite slower = suite.each(one -> one.taking(one.seconds() * Math.pow(1.035, night)));
    return night >= 18 ? slower.named(Catalog.FINDER) : slower;
  }

  /** The file then holds one nameless case for the set-up and none of the tests. */
  private static Suite boarding(Suite suite, int night) {
    return night == 24
        ? new Suite(
            suite.name(), List.of(Case.passed("", 0.2).failing(Failures.setUp(suite.name()))))
        : suite;
  }

  private static Suite others(Suite suite, int night) {
    if (suite.name().contains(".loyalty.") && night < 6) {
      return suite.each(one -> one.skippedFor("the loyalty scheme starts with the next release"));
    }
    if (suite.name().contains(".vouchers.") && night < 4) {
      return new Suite(suite.name(), suite.cases().subList(0, 5));
    }
    return suite;
  }

  private static Suite jittered(String stream, int night, Suite suite) {
    return suite.each(
        one -> {
          double factor = 0.85 + 0.3 * dice(stream, night, suite.name() + one.name()).nextDouble();
          return one.taking(one.seconds() * factor);
        });
  }

  static List<Suite> kiosk(String stream, int night) {
    List<Suite> suites = new ArrayList<>();
    for (Suite suite : Catalog.kiosk()) {
      String file = suite.name().replace('.', '/') + ".py";
      Suite named = suite.each(one -> reworded(night, one));
      suites.add(jittered(stream, night, named.each(one -> kioskCase(stream, night, file, one))));
    }
    return suites;
  }

  /** Said in other words, so that it may be the same test. */
  private static Case reworded(int night, Case one) {
    return night >= 31 && one.name().equals("test_high_contrast_is_kept_for_the_next_page")
        ? one.named("test_high_contrast_is_kept_for_the_next_traveller")
        : one;
  }

  private static Case kioskCase(String stream, int night, String file, Case one) {
    if (outage(night)) {
      return one.failing(
          Failures.python(file, 18, one.name(), "kiosk.status", "'offline'", "'online'"));
    }
    if (one.name().equals("test_receipt_is_shown_while_printing")) {
      return flips(stream, night, file, one);
    }
    if (one.name().equals("test_board_survives_a_lost_connection") && night >= 30) {
      return one.failing(
              Failures.python(file, 57, one.name(), "board.rows()", "5", "6")
                  .showing(
                      new Screen(
                          "Departures",
                          List.of(
                              "14:05  Outer Holm",
                              "14:20  Kittiwake",
                              "14:35  Nordkai",
                              "15:05  Outer Holm"),
                          "Showing the last known sailings")))
          .printing(lostConnection());
    }
    return one;
  }

  /** What the departure board printed, with the colours of a terminal. */
  private static String lostConnection() {
    List<String> lines = new ArrayList<>();
    lines.add(printed(7, "board: connection lost"));
    for (int second = 9; second <= 31; second += 2) {
      lines.add(
          printed(second, "\u001B[33mwarning\u001B[0m no answer from the timetable, asking again"));
    }
    lines.add(printed(32, "\u001B[31merror\u001B[0m gave up after 12 of 12 tries"));
    lines.add(printed(32, "board: showing the last known 4 sailings"));
    return String.join("\n", lines);
  }

  private static String printed(int second, String text) {
    return String.format(Locale.ROOT, "\u001B[2m02:14:%02d\u001B[0m %s", second, text);
  }

  private static Case flips(String stream, int night, String file, Case one) {
    double dice = dice(stream, night, "flip").nextDouble();
    Case.Failure why =
        Failures.python(file, 33, one.name(), "receipt.visible", "False", "True")
            .showing(receipt("Please wait, the printer is busy"));
    if (dice < 0.14) {
      return one.failing(why).retriedAfter(why);
    }
    return dice < 0.45 ? one.retriedAfter(why).showing(receipt(null)) : one;
  }

  private static Screen receipt(@Nullable String alert) {
    List<String> lines =
        alert == null
            ? List.of("Skerrow – Outer Holm, 14:05", "2 adults, 1 child", "Paid  41.60")
            : List.of("Skerrow – Outer Holm, 14:05");
    return new Screen(alert == null ? "Your receipt" : "Printing your ticket …", lines, alert);
  }

  static List<Suite> timetable(String stream, int night) {
    return Catalog.timetable().stream()
        .map(suite -> jittered(stream, night, suite.each(one -> rule(night, one))))
        .toList();
  }

  private static Case rule(int night, Case one) {
    if (one.name().startsWith("Ice on") && night < 12) {
      return one.skippedFor("pending: no rule for ice yet");
    }
    boolean broken = one.name().startsWith("The last ferry waits") && night >= 22 && night < 26;
    return broken
        ? one.failing(
            new Case.Failure(
                false,
                "AssertionError",
                "Then the ferry of 23:40 leaves at 23:52\n  expected 23:52, got 23:40",
                "Given the train of 23:31 is 12 minutes late\nWhen the timetable is made\n"
                    + "Then the ferry of 23:40 leaves at 23:52   # steps/departures.rb:88"))
        : one;
  }

  static List<Suite> device(String stream, String device, int night) {
    return Catalog.device().stream()
        .map(
            suite ->
                jittered(stream + device, night, suite.each(one -> deviceCase(device, night, one))))
        .toList();
  }

  private static Case deviceCase(String device, int night, Case one) {
    boolean broken = device.equals("tablet") && one.name().startsWith("counts foot") && night >= 29;
    return broken ? one.failing(Failures.script("/app/e2e/boarding.spec.ts", "42", "41")) : one;
  }

  static List<Suite> fareTables(String stream, int night) {
    List<Suite> suites = new ArrayList<>();
    int number = 0;
    for (Suite suite : Catalog.fareTables()) {
      List<Case> cases = new ArrayList<>();
      for (Case one : suite.cases()) {
        number++;
        boolean broken = roundingBroken(night) && number % 23 == 0;
        cases.add(
            broken
                ? one.failing(
                    Failures.rounding("org.skerrow.fares.TableCheck", "row", 800 + number))
                : one);
      }
      suites.add(jittered(stream, night, new Suite(suite.name(), cases)));
    }
    return suites;
  }
}
