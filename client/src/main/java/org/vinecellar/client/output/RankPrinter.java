package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.Locale;

/** Tests by their figures, and how to split them, for people. */
public final class RankPrinter {
  private static final double MINUTE = 60_000;
  private static final double SECOND = 1_000;

  private final Terminal terminal;

  /** On that terminal. */
  public RankPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Those that rank first first. */
  public void ranked(JsonNode tests, String by, boolean more) {
    for (JsonNode one : tests) {
      String variant = one.path("variant").asText();
      terminal.line(
          terminal.paint(Terminal.clean(one.path("test").asText()), Terminal.Paint.BOLD)
              + (variant.isEmpty() ? "" : " [" + Terminal.clean(variant) + "]")
              + (one.path("quarantined").isTextual() ? "  in quarantine" : ""));
      terminal.line(
          terminal.paint(
              "  " + Terminal.clean(one.path("stream").asText()) + ": " + figure(one, by),
              Terminal.Paint.SLATE));
    }
    if (tests.isEmpty()) {
      terminal.line("no test is in that list");
    } else if (more) {
      terminal.note("there may be more: --limit");
    }
  }

  /** Cases of one test whose names are made up. */
  public void madeUp(JsonNode one) {
    String suite = one.path("suite").asText("");
    terminal.line(
        one.path("id").asInt()
            + "  "
            + terminal.paint(
                Terminal.clean((suite.isEmpty() ? "" : suite + "#") + one.path("test").asText()),
                Terminal.Paint.BOLD));
    terminal.line(
        terminal.paint(
            "  "
                + Terminal.clean(one.path("stream").asText())
                + ": "
                + Phrases.plural(one.path("cases").asInt(), "case")
                + (one.path("run").isNumber() ? ", seen at #" + one.path("run").asInt() : "")
                + (one.path("foldedInto").isNumber()
                    ? ", folded by " + Terminal.clean(one.path("saidBy").asText())
                    : ", not folded"),
            Terminal.Paint.SLATE));
  }

  private static String figure(JsonNode one, String by) {
    String ran =
        "failed in "
            + one.path("failed").asInt()
            + " of "
            + Phrases.plural(one.path("ran").asInt(), "run");
    String takes = one.path("millis").isNumber() ? ", takes " + time(one.path("millis")) : "";
    return switch (by) {
      case "slowing" ->
          String.format(
              Locale.ROOT,
              "slower since #%d by a factor of %.1f, from %s to %s; %s a week",
              one.path("slowerSince").asInt(),
              one.path("millis").asDouble() / Math.max(1, one.path("beforeMillis").asDouble()),
              time(one.path("beforeMillis")),
              time(one.path("millis")),
              time(one.path("weeklyCostMillis")));
      case "costly" ->
          ran
              + ", alone in "
              + one.path("alone").asInt()
              + "; "
              + time(one.path("retriedMillis"))
              + " for trying again";
      case "slowest" ->
          "takes "
              + time(one.path("millis"))
              + String.format(Locale.ROOT, ", %.1f times a week", one.path("weekly").asDouble());
      case "missing" ->
          "last in #"
              + one.path("lastRun").asInt()
              + ", not in the latest "
              + Phrases.plural(one.path("missing").asInt(), "run");
      case "newest" ->
          (one.path("firstRun").isNumber()
                  ? "first in #" + one.path("firstRun").asInt() + ", "
                  : "")
              + ran
              + takes;
      case "steady" -> "passed in all " + Phrases.plural(one.path("ran").asInt(), "run") + takes;
      default -> ran + takes;
    };
  }

  /** How the suites of a stream are best split. */
  public void plan(JsonNode plan) {
    JsonNode parts = plan.path("parts");
    terminal.line(
        terminal.paint(Terminal.clean(plan.path("stream").asText()), Terminal.Paint.BOLD)
            + "  "
            + time(plan.path("totalMillis"))
            + " of tests in "
            + Phrases.plural(parts.size(), "part")
            + ": "
            + time(plan.path("millis"))
            + " for the longest"
            + (plan.path("nowMillis").isNumber()
                ? ", which is "
                    + time(plan.path("nowMillis"))
                    + " now, in "
                    + Phrases.plural(plan.path("now").size(), "part")
                : ""));
    for (JsonNode part : parts) {
      terminal.line(
          String.format(
              Locale.ROOT,
              "  part %d  %8s  %s in %s",
              part.path("part").asInt(),
              time(part.path("millis")),
              Phrases.plural(part.path("tests").asInt(), "test"),
              Phrases.plural(part.path("suites").size(), "suite")));
    }
  }

  private static String time(JsonNode millis) {
    double told = millis.asDouble();
    if (told >= 2 * MINUTE) {
      return String.format(Locale.ROOT, "%.1f min", told / MINUTE);
    }
    return told >= SECOND
        ? String.format(Locale.ROOT, "%.1f s", told / SECOND)
        : String.format(Locale.ROOT, "%.0f ms", told);
  }
}
