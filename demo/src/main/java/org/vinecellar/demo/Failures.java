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
  private static final String RUNNER =
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
}
