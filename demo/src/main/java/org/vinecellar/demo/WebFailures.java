package org.vinecellar.demo;

import java.util.List;
import java.util.Locale;

/** Failures of what is called over a network, and of pages, as clients and drivers word them. */
final class WebFailures {
  private WebFailures() {}

  /** The payment provider's gateway is down; half of the tests see it through a wrapper. */
  static Case.Failure refused(String suite, Case one) {
    int address = 10 + Math.floorMod(suite.hashCode(), 40);
    String root =
        "java.net.ConnectException: Connection refused: pay-gate-"
            + address % 3
            + ".skerrow.example/10.20.0."
            + address
            + ":8443";
    String frames =
        "\tat java.base/sun.nio.ch.Net.pollConnect(Native Method)\n"
            + "\tat org.apache.hc.client5.http.socket.PlainConnectionSocketFactory.connectSocket"
            + "(PlainConnectionSocketFactory.java:91)\n"
            + "\tat org.skerrow.booking.payments.PaymentGateway.charge(PaymentGateway.java:88)\n";
    if (one.name().length() % 2 == 0) {
      return new Case.Failure(
          true,
          "java.net.ConnectException",
          root.substring(root.indexOf(' ') + 1),
          root + "\n" + frames + Failures.calledFrom(suite, one.name(), 33) + Failures.RUNNER);
    }
    String outer = "org.skerrow.booking.payments.PaymentNotTakenException";
    return new Case.Failure(
        true,
        outer,
        "the fare was not taken",
        outer
            + ": the fare was not taken\n"
            + "\tat org.skerrow.booking.payments.Payments.take(Payments.java:41)\n"
            + Failures.calledFrom(suite, one.name(), 47)
            + Failures.RUNNER
            + "Caused by: "
            + root
            + "\n"
            + frames
            + "\t... 8 more");
  }

  /** The service answers with a code of its own, whichever call it was. */
  static Case.Failure deckClosed(String suite, Case one) {
    String area = suite.replaceAll(".*\\.(\\w+)\\.\\w+$", "$1");
    String message =
        "POST /sailings/"
            + (4000 + Math.floorMod(one.name().hashCode(), 900))
            + "/"
            + area
            + " ==> expected: <201> but was: <409>, body {\"code\":\"DECK_CLOSED\",\"message\":"
            + "\"deck C is closed for loading\",\"trace\":\""
            + Integer.toHexString((suite + one.name()).hashCode())
            + "\"}";
    return Failures.junit(
        "org.opentest4j.AssertionFailedError", message, Failures.calledFrom(suite, one.name(), 58));
  }

  /** A bar across the page takes the clicks of what lies below. */
  static Case.Failure covered(String test) {
    String button = test.contains("cancel") ? "Cancel" : "Pay now";
    String message =
        "playwright._impl._errors.TimeoutError: Locator.click: Timeout 30000ms exceeded.";
    return new Case.Failure(
        false,
        "playwright._impl._errors.TimeoutError",
        message,
        "    def "
            + test
            + "(kiosk):\n        kiosk.choose_sailing(\"Skerrow\", \"Inner Holm\")\n>       "
            + "kiosk.page.get_by_role(\"button\", name=\""
            + button
            + "\").click()\n\ntests/test_tickets.py:"
            + (20 + test.length())
            + ": \n_ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _ _\nE       "
            + message
            + "\nE       Call log:\nE         - waiting for get_by_role(\"button\", name=\""
            + button
            + "\")\nE           - locator resolved to <button class=\"main\">"
            + button
            + "</button>\nE         - attempting click action\n"
            + "E           - waiting for element to be visible, enabled and stable\n"
            + "E           - <div id=\"storm-notice\">Storm warning for Friday</div>"
            + " intercepts pointer events\nE         - retrying click action\n\n"
            + "/usr/lib/python3/dist-packages/playwright/_impl/_connection.py:528: TimeoutError",
        new Screen(
            "Your ticket",
            List.of("Skerrow – Inner Holm, 14:05", "2 adults, 1 child", "To pay  41.60"),
            "Storm warning for Friday: sailings may be cancelled"));
  }

  /** The crew service's certificate has run out. */
  static Case.Failure certificate(String test) {
    String message =
        String.format(
            Locale.ROOT,
            "request to https://crew.skerrow.example/sign-on/%d failed, reason: certificate has expired",
            100 + test.length());
    return new Case.Failure(
        false,
        "FetchError",
        message,
        "FetchError: "
            + message
            + "\n    at ClientRequest.<anonymous> (node_modules/node-fetch/lib/index.js:1501:11)\n"
            + "    at TLSSocket.socketErrorListener (node:_http_client:500:9)\n"
            + "    at signOn (/app/e2e/helpers/crew.ts:19:12)\n"
            + "    at Object.<anonymous> (/app/e2e/crew.spec.ts:27:5) {\n"
            + "  type: 'system',\n  errno: 'CERT_HAS_EXPIRED',\n  code: 'CERT_HAS_EXPIRED'\n}");
  }
}
