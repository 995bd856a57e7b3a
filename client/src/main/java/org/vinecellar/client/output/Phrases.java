package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Counts and changes as people say them. */
final class Phrases {
  /** Said of a run that is as the one before. */
  static final String NOTHING = "nothing changed";

  private Phrases() {}

  /** As in "412 passed, 3 failed, 8 skipped"; without what there is none of. */
  static String counts(Terminal terminal, JsonNode counts) {
    List<String> words = new ArrayList<>();
    int setUps = counts.path("setUps").asInt();
    if (setUps > 0) {
      words.add(terminal.paint(plural(setUps, "set-up") + " failed", Terminal.Paint.ORANGE));
    }
    add(words, terminal, counts, "failed", "failed", Terminal.Paint.CLARET);
    add(words, terminal, counts, "errored", "errored", Terminal.Paint.ORANGE);
    add(words, terminal, counts, "passed", "passed", Terminal.Paint.TEAL);
    add(words, terminal, counts, "skipped", "skipped", Terminal.Paint.SLATE);
    add(words, terminal, counts, "notReached", "not reached", Terminal.Paint.SLATE);
    return words.isEmpty() ? "no tests" : String.join(", ", words);
  }

  private static void add(
      List<String> words,
      Terminal terminal,
      JsonNode counts,
      String field,
      String word,
      Terminal.Paint paint) {
    int n = counts.path(field).asInt();
    if (n > 0) {
      words.add(terminal.paint(n + " " + word, paint));
    }
  }

  /** As in "2 new failing, 1 fixed"; "nothing changed" when nothing did. */
  static String changes(JsonNode changes) {
    String[][] all = {
      {"newFailing", "new failing"},
      {"failingAsBefore", "failing as before"},
      {"fixed", "fixed"},
      {"passedOnRetry", "passed on retry"},
      {"added", "added"},
      {"gone", "gone"},
      {"renamed", "renamed"}
    };
    List<String> words = new ArrayList<>();
    for (String[] one : all) {
      int n = changes.path(one[0]).asInt();
      if (n > 0) {
        words.add(n + " " + one[1]);
      }
    }
    return words.isEmpty() ? NOTHING : String.join(", ", words);
  }

  static String duration(double ms) {
    if (ms < 1000) {
      return String.format(Locale.ROOT, "%.0f ms", ms);
    }
    long seconds = Math.round(ms / 1000);
    if (seconds < 60) {
      return String.format(Locale.ROOT, "%.1f s", ms / 1000);
    }
    return seconds < 3600
        ? String.format(Locale.ROOT, "%d min %02d s", seconds / 60, seconds % 60)
        : String.format(Locale.ROOT, "%d h %02d min", seconds / 3600, seconds / 60 % 60);
  }

  /** How long ago, in its largest unit. */
  static String age(Duration age) {
    if (age.toMinutes() < 60) {
      return Math.max(0, age.toMinutes()) + " min";
    }
    return age.toHours() < 48 ? age.toHours() + " h" : age.toDays() + " days";
  }

  /** In units of a thousand. */
  static String bytes(long bytes) {
    return bytes < 1_000_000
        ? String.format(Locale.ROOT, "%.1f kB", bytes / 1e3)
        : String.format(Locale.ROOT, "%.1f MB", bytes / 1e6);
  }

  static String plural(int n, String word) {
    return n + " " + word + (n == 1 ? "" : "s");
  }
}
