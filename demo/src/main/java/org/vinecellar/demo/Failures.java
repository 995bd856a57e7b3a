package org.vinecellar.demo;

import java.util.Locale;

/** Failures as the frameworks of the ferry company's projects word them. */
final class Failures {
  private static final String JUNIT =
      """
      \tat org.junit.jupiter.api.AssertionFailureBuilder.build(AssertionFailureBuilder.java:151)
      \tat org.junit.jupiter.api.AssertEquals.failNotEqual(AssertEquals.java:197)
      \tat org.junit.jupiter.api.Assertions.assertEquals(Assertions.java:1145)
      """;
  static final String RUNNER =
      """
      \tat java.base/jdk.internal.reflect.DirectMethodHandleAccessor.invoke(DirectMethodHandleAccessor.java:103)
      \tat java.base/java.lang.reflect.Method.invoke(Method.java:580)
      \tat org.junit.platform.engine.support.hierarchical.NodeTestTask.execute(NodeTestTask.java:95)
      """;

  private Failures() {}

  static Case.Failure rounding(String suite, String test, int cents) {
    String expected = String.format(Locale.ROOT, "%d.%02d", cents / 100, cents % 100);
    String actual = String.format(Locale.ROOT, "%d.%02d", (cents - 1) / 100, (cents - 1) % 100);
    String message = "fare in EUR ==> expected: <" + expected + "> but was: <" + actual + ">";
    return new Case.Failure(
        false,
        "org.opentest4j.AssertionFailedError",
        message,
        "org.opentest4j.AssertionFailedError: "
            + message
            + "\n"
            + JUNIT
            + "\tat "
            + suite
            + ".assertFare(FareRoundingTest.java:31)\n\tat "
            + suite
            + "."
            + test.replaceAll("\\W.*", "")
            + "(FareRoundingTest.java:"
            + (40 + cents % 60)
            + ")\n"
            + RUNNER);
  }

  static Case.Failure outage(String suite) {
    String message = "Connection to staging-db.skerrow.example:5432 refused";
    return new Case.Failure(
        true,
        "org.skerrow.booking.store.StoreUnavailableException",
        message,
        "org.skerrow.booking.store.StoreUnavailableException: "
            + message
            + "\n\tat org.skerrow.booking.store.Pool.connect(Pool.java:74)\n"
            + "\tat org.skerrow.booking.store.StoreFixture.openStore(StoreFixture.java:31)\n\tat "
            + suite
            + ".prepare("
            + suite.substring(suite.lastIndexOf('.') + 1)
            + ".java:22)\n"
            + RUNNER
            + "Caused by: java.net.ConnectException: Connection refused\n"
            + "\tat java.base/sun.nio.ch.Net.pollConnect(Native Method)\n"
            + "\tat java.base/sun.nio.ch.NioSocketImpl.connect(NioSocketImpl.java:592)\n"
            + "\tat org.skerrow.booking.store.Pool.connect(Pool.java:71)\n"
            + "\t... 5 more");
  }

  /** As pytest tells that an expression did not have the value that was asserted. */
  static Case.Failure python(
      String file, int line, String test, String expression, String was, String expected) {
    String told = "assert " + was + " == " + expected;
    return new Case.Failure(
        false,
        "AssertionError",
        "AssertionError: " + told,
        "kiosk = <Kiosk quayside-3 at berth B>\n\n    def "
            + test
            + "(kiosk):\n        kiosk.choose_sailing(\"Skerrow\", \"Inner Holm\")\n>       "
            + "assert "
            + expression
            + " == "
            + expected
            + "\nE       AssertionError: "
            + told
            + "\nE        +  where "
            + was
            + " = "
            + expression
            + "\n\n"
            + file
            + ":"
            + line
            + ": AssertionError\n/usr/lib/python3/dist-packages/_pytest/runner.py:262: in call");
  }

  static Case.Failure script(String where, String expected, String received) {
    String message =
        "expect(received).toBe(expected)\n\nExpected: " + expected + "\nReceived: " + received;
    return new Case.Failure(
        false,
        "Error",
        message,
        "Error: "
            + message
            + "\n    at Object.<anonymous> ("
            + where
            + ":41:27)\n    at Promise.then.completed (node_modules/jest-circus/build/utils.js:298:28)\n"
            + "    at new Promise (<anonymous>)\n"
            + "    at callAsyncCircusFn (node_modules/jest-circus/build/utils.js:231:10)");
  }

  static Case.Failure setUp(String suite) {
    String message = "no berth plan for the quay “Nordkai” in the test data";
    return new Case.Failure(
        true,
        "java.lang.IllegalStateException",
        message,
        "java.lang.IllegalStateException: "
            + message
            + "\n\tat org.skerrow.booking.boarding.BerthPlans.load(BerthPlans.java:52)\n\tat "
            + suite
            + ".plans(BoardingPassTest.java:24)\n"
            + RUNNER);
  }

  /** What JUnit says of a check that did not hold. */
  static Case.Failure junit(String type, String message, String frames) {
    return new Case.Failure(
        false, type, message, type + ": " + message + "\n" + JUNIT + frames + RUNNER);
  }

  /** The frame of a test. */
  static String calledFrom(String suite, String test, int line) {
    String name = suite.substring(suite.lastIndexOf('.') + 1);
    return "\tat "
        + suite
        + "."
        + test.replaceAll("\\W.*", "")
        + "("
        + name
        + ".java:"
        + (line + Math.floorMod(test.hashCode(), 90))
        + ")\n";
  }

  /** A cabin whose deck nobody knows: thrown by the product, whoever asks. */
  static Case.Failure noDeck(String suite, String test) {
    String message =
        "Cannot invoke \"org.skerrow.booking.cabins.Deck.capacity()\" because \"deck\" is null";
    String caller =
        suite.contains(".pets.")
            ? "\tat org.skerrow.booking.pets.PetCabins.free(PetCabins.java:29)\n"
            : "\tat org.skerrow.booking.cabins.CabinBooking.reserve(CabinBooking.java:64)\n";
    return new Case.Failure(
        true,
        "java.lang.NullPointerException",
        message,
        "java.lang.NullPointerException: "
            + message
            + "\n\tat org.skerrow.booking.cabins.CabinPlan.deckOf(CabinPlan.java:117)\n"
            + caller
            + calledFrom(suite, test, 21)
            + RUNNER);
  }

  /** The invoice looks different from now on, and somebody wanted that. */
  static Case.Failure invoice(String suite, String test) {
    String area = suite.replaceAll(".*\\.(\\w+)\\.\\w+$", "$1");
    String message =
        "snapshot invoice/booking.snap does not match\n- Total   "
            + area
            + "\n+ Total incl. harbour due   "
            + area;
    return junit(
        "org.opentest4j.AssertionFailedError",
        message,
        "\tat org.skerrow.testing.Snapshots.matches(Snapshots.java:52)\n"
            + calledFrom(suite, test, 70));
  }

  /** A migration that was forgotten. */
  static Case.Failure noRelation(String suite, String test) {
    String root =
        "org.postgresql.util.PSQLException: ERROR: relation \"season_pass\" does not exist";
    String outer = "org.skerrow.booking.store.StoreException";
    return new Case.Failure(
        true,
        outer,
        "cannot read reservations",
        outer
            + ": cannot read reservations\n\tat org.skerrow.booking.store.ReservationStore."
            + (test.startsWith("find") ? "find" : "keep")
            + "(ReservationStore.java:"
            + (80 + test.length())
            + ")\n"
            + calledFrom(suite, test, 35)
            + RUNNER
            + "Caused by: "
            + root
            + "\n  Position: "
            + (30 + test.length())
            + "\n\tat org.postgresql.core.v3.QueryExecutorImpl.receiveErrorResponse"
            + "(QueryExecutorImpl.java:2725)\n\t... 6 more");
  }

  /** The table of fares lacks an island. */
  static Case.Failure noFare(String row) {
    String route = row.replaceAll(".*\\[(.*)]", "$1");
    String message = "no fare in the table “2027” for the route " + route;
    return new Case.Failure(
        true,
        "org.skerrow.fares.MissingFareException",
        message,
        "org.skerrow.fares.MissingFareException: "
            + message
            + "\n\tat org.skerrow.fares.FareTable.fareOf(FareTable.java:73)\n"
            + "\tat org.skerrow.fares.TableCheck.row(TableCheck.java:38)\n"
            + RUNNER);
  }
}
