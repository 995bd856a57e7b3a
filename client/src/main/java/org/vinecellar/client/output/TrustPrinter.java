package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.Locale;

/** What is known of tests, for people. */
public final class TrustPrinter {
  private static final int MAX_NAME = 100;

  /** Evidence is told by so many runs of a kind. */
  private static final int MAX_RUNS = 12;

  private final Terminal terminal;

  /** On that terminal. */
  public TrustPrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Tests that fail by chance. */
  public void flaky(JsonNode tests, boolean more) {
    for (JsonNode test : tests) {
      JsonNode estimate = test.path("estimate");
      terminal.line(
          String.format(Locale.ROOT, "%6s  ", percent(estimate.path("rate")))
              + terminal.paint(name(estimate), Terminal.Paint.BOLD));
      terminal.line(
          "        "
              + terminal.paint(
                  test.path("stream").asText()
                      + ": failed in "
                      + estimate.path("stumbles").asInt()
                      + " of "
                      + Phrases.plural(estimate.path("runs").asInt(), "run")
                      + ", so "
                      + percent(estimate.path("low"))
                      + " to "
                      + percent(estimate.path("high"))
                      + (estimate.path("since").isNumber()
                          ? ", since #" + estimate.path("since").asInt()
                          : "")
                      + (estimate.path("onlyIn").isTextual()
                          ? ", in " + estimate.path("onlyIn").asText() + " alone"
                          : ""),
                  Terminal.Paint.SLATE));
    }
    if (tests.isEmpty()) {
      terminal.line("no test is known to fail by chance");
    } else if (more) {
      terminal.note("there may be more: --limit");
    }
  }

  /** What one test did before. */
  public void history(JsonNode test, JsonNode history) {
    terminal.line(
        terminal.paint(name(test), Terminal.Paint.BOLD) + "  " + test.path("verdict").asText());
    terminal.line("  " + Terminal.clean(history.path("sentence").asText()));
    StringBuilder strip = new StringBuilder();
    String commit = null;
    JsonNode results = history.path("results");
    for (int i = results.size() - 1; i >= 0; i--) {
      JsonNode one = results.get(i);
      String here = one.path("commit").asText("");
      boolean sameCommit = here.equals(commit) && !here.isEmpty();
      strip.append(strip.length() == 0 || sameCommit ? "" : " ").append(sign(one));
      commit = here;
    }
    if (strip.length() > 0) {
      terminal.line("  " + strip);
      terminal.line(
          terminal.paint(
              "  oldest first: + passed, r passed when tried again, F failed, E errored,"
                  + " . skipped or not reached; a blank is another commit",
              Terminal.Paint.SLATE));
    }
    JsonNode since = history.path("since");
    if (since.isObject()) {
      terminal.line(
          "  failing since #"
              + since.path("firstBad").asInt()
              + (since.path("lastGood").isNumber()
                  ? ", last passed in #" + since.path("lastGood").asInt()
                  : ", not seen to pass before"));
    }
    evidence(history.path("evidence"));
    order(history.path("order"));
    JsonNode stretches = history.path("stretches");
    for (int i = 1; i < stretches.size(); i++) {
      JsonNode one = stretches.get(i);
      double before = stretches.get(i - 1).path("medianMs").asDouble();
      double factor = one.path("medianMs").asDouble() / Math.max(before, 1e-3);
      terminal.line(
          String.format(
              Locale.ROOT,
              "  %s since #%d by a factor of %.1f",
              factor > 1 ? "slower" : "faster",
              one.path("fromRun").asInt(),
              factor > 1 ? factor : 1 / Math.max(factor, 1e-9)));
    }
  }

  private void order(JsonNode order) {
    if (order.isObject()) {
      terminal.line(
          String.format(
              Locale.ROOT,
              "  failed in %d of %s in which %s %s shortly before it, and in %d of %d others",
              order.path("failedWith").asInt(),
              Phrases.plural(order.path("with").asInt(), "run"),
              Terminal.clean(order.path("test").asText()),
              order.path("whenBefore").asBoolean() ? "ran" : "had not run",
              order.path("failedWithout").asInt(),
              order.path("without").asInt()));
    }
  }

  private void evidence(JsonNode evidence) {
    String kind = null;
    StringBuilder line = new StringBuilder();
    int runs = 0;
    for (JsonNode one : evidence) {
      if (!one.path("kind").asText().equals(kind)) {
        print(line);
        kind = one.path("kind").asText();
        line.append("  ").append(kind).append(":");
        runs = 0;
      }
      if (++runs <= MAX_RUNS) {
        line.append(" #").append(one.path("run").asInt());
      } else if (runs == MAX_RUNS + 1) {
        line.append(" …");
      }
    }
    print(line);
  }

  private void print(StringBuilder line) {
    if (line.length() > 0) {
      terminal.line(line.toString());
      line.setLength(0);
    }
  }

  private static char sign(JsonNode result) {
    return switch (result.path("outcome").asText()) {
      case "passed" -> result.path("stumbled").asBoolean() ? 'r' : '+';
      case "failed" -> 'F';
      case "errored" -> 'E';
      default -> '.';
    };
  }

  private static String name(JsonNode estimate) {
    String name = Terminal.clean(estimate.path("test").asText());
    String variant = Terminal.clean(estimate.path("variant").asText());
    String whole = variant.isEmpty() ? name : name + " (" + variant + ")";
    return whole.length() <= MAX_NAME ? whole : "…" + whole.substring(whole.length() - MAX_NAME);
  }

  private static String percent(JsonNode share) {
    double percent = share.asDouble() * 100;
    return percent < 10
        ? String.format(Locale.ROOT, "%.1f %%", percent)
        : Math.round(percent) + " %";
  }
}
