package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;

/** Tests in quarantine, for people. */
public final class QuarantinePrinter {
  private final Terminal terminal;

  /** On that terminal. */
  public QuarantinePrinter(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Those that there are, or were. */
  public void list(JsonNode all, boolean ended) {
    for (JsonNode one : all) {
      String variant = one.path("variant").asText();
      terminal.line(
          terminal.paint(clean(one, "test"), Terminal.Paint.BOLD)
              + (variant.isEmpty() ? "" : " [" + Terminal.clean(variant) + "]")
              + "  "
              + terminal.paint(standing(one), paint(one)));
      terminal.line(
          "  "
              + one.path("id").asText()
              + "  "
              + clean(one, "owner")
              + ": "
              + clean(one, "reason")
              + (one.path("ticket").isTextual() ? " (" + clean(one, "ticket") + ")" : ""));
      terminal.line(
          terminal.paint(
              "  "
                  + (one.path("stream").isTextual() ? "in " + clean(one, "stream") : "everywhere")
                  + " since "
                  + one.path("since").asText().substring(0, 10)
                  + ": "
                  + did(one),
              Terminal.Paint.SLATE));
    }
    if (all.isEmpty()) {
      terminal.line(ended ? "no quarantine was ended" : "no test is in quarantine");
    }
  }

  private static String standing(JsonNode one) {
    String until = one.path("until").asText();
    return switch (one.path("standing").asText()) {
      case "over" -> "over since " + until + ": failures count";
      case "clean" -> "clean, could come back (until " + until + ")";
      case "gone" -> "no longer run (until " + until + ")";
      case "ended" -> "ended by " + clean(one, "endedBy");
      default -> "until " + until;
    };
  }

  private static Terminal.Paint paint(JsonNode one) {
    return switch (one.path("standing").asText()) {
      case "over" -> Terminal.Paint.CLARET;
      case "ending" -> Terminal.Paint.ORANGE;
      case "clean" -> Terminal.Paint.TEAL;
      default -> Terminal.Paint.SLATE;
    };
  }

  private static String did(JsonNode one) {
    int ran = one.path("ran").asInt();
    if (ran == 0) {
      return "no run has had it since";
    }
    int clean = one.path("clean").asInt();
    return "failed in "
        + one.path("failed").asInt()
        + " of "
        + Phrases.plural(ran, "run")
        + (clean > 0 && clean < ran ? ", the latest " + clean + " passed" : "");
  }

  private static String clean(JsonNode one, String field) {
    return Terminal.clean(one.path(field).asText());
  }

  /** What came of putting tests there. */
  public void added(JsonNode added, String until, boolean trial) {
    int fits = added.path("fits").asInt();
    if (trial) {
      terminal.line("it would be " + Phrases.plural(fits, "test"));
      int told = 0;
      for (JsonNode name : added.path("tests")) {
        if (!name.asText().isEmpty()) {
          terminal.line("  " + Terminal.clean(name.asText()));
          told++;
        }
      }
      if (told > 0 && told < fits) {
        terminal.line("  … and " + (fits - told) + " more");
      }
      return;
    }
    int already = added.path("already").asInt();
    int unknown = added.path("unknown").asInt();
    terminal.line(
        Phrases.plural(added.path("added").asInt(), "test")
            + " put into quarantine until "
            + until
            + (already == 0
                ? ""
                : ", " + already + (already == 1 ? " was" : " were") + " there already")
            + (unknown == 0
                ? ""
                : ", " + unknown + (unknown == 1 ? " is" : " are") + " not of this stream"));
  }
}
