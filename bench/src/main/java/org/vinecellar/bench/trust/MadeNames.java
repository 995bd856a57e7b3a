package org.vinecellar.bench.trust;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** Names of made-up tests, and how people say the same in other words. */
final class MadeNames {
  private static final String[][] VERBS = {
    {"rejects", "refuses", "denies"},
    {"returns", "gives", "yields"},
    {"creates", "makes", "builds"},
    {"removes", "deletes", "drops"},
    {"shows", "displays", "renders"},
    {"computes", "calculates", "works out"},
    {"stores", "saves", "persists"},
    {"sends", "emits", "dispatches"},
    {"accepts", "allows", "permits"},
    {"throws", "raises", "fails with"},
    {"loads", "fetches", "reads"},
    {"updates", "changes", "modifies"},
    {"rounds"},
    {"splits"},
    {"sorts"},
    {"locks"},
    {"releases"},
    {"counts"},
    {"merges"},
    {"reserves"},
    {"validates", "checks"},
    {"ignores", "skips"}
  };
  private static final String[] NOUNS = {
    "ticket", "fare", "booking", "cabin", "crossing", "timetable", "berth", "passenger", "vehicle",
    "voucher", "refund", "route", "harbour", "schedule", "invoice", "receipt", "discount",
        "season pass",
    "queue", "manifest", "seat", "gate", "sailing", "deck plan", "surcharge"
  };
  private static final String[] CONDITIONS = {
    "when expired",
    "for children",
    "without luggage",
    "after midnight",
    "with two vehicles",
    "on public holidays",
    "when the ship is full",
    "for an unknown id",
    "with a negative amount",
    "in another currency",
    "before departure",
    "after cancellation",
    "for groups",
    "when offline",
    "if the card was stolen",
    "with an empty basket",
    "across the date line",
    "for residents",
    "when the tide is low",
    "on a return trip",
    "with a blocked account",
    "in high season",
    "for large vehicles",
    "when sold twice",
    "with no permission",
    "for staff",
    "at the last minute",
    "when the pier is closed",
    "with three passengers",
    "while boarding",
    ""
  };
  private static final String[] MORE = {
    "at the gate", "in the kiosk", "by default", "again", "at once", "from the app", "for the agent"
  };

  private final Random random;

  MadeNames(Random random) {
    this.random = random;
  }

  /** What a test checks. */
  record Check(int verb, int verbWord, String noun, String condition, String more, int style) {}

  Check any() {
    int verb = random.nextInt(VERBS.length);
    return new Check(
        verb,
        random.nextInt(VERBS[verb].length),
        one(NOUNS),
        one(CONDITIONS),
        "",
        random.nextInt(3));
  }

  /** Another check that sounds like it. */
  Check other(Check check) {
    String condition = one(CONDITIONS);
    while (condition.equals(check.condition)) {
      condition = one(CONDITIONS);
    }
    return new Check(check.verb, check.verbWord, check.noun, condition, "", check.style);
  }

  /** The same check in other words. */
  Check reworded(Check check) {
    return switch (random.nextInt(4)) {
      case 0 ->
          new Check(
              check.verb,
              (check.verbWord + 1) % VERBS[check.verb].length,
              check.noun,
              check.condition,
              check.more,
              (check.style + 1) % 3);
      case 1 ->
          new Check(
              check.verb, check.verbWord, check.noun, check.condition, one(MORE), check.style);
      case 2 ->
          new Check(
              check.verb,
              check.verbWord,
              check.noun,
              check.condition,
              check.more,
              3 + random.nextInt(2));
      default ->
          new Check(
              check.verb,
              check.verbWord,
              check.noun,
              check.condition,
              check.more,
              (check.style + 1 + random.nextInt(4)) % 5);
    };
  }

  String said(Check check) {
    String verb = VERBS[check.verb][check.verbWord];
    String rest = (check.condition + " " + check.more).strip();
    return switch (check.style) {
      case 0 -> camel(verb + " " + check.noun + " " + rest);
      case 1 -> camel(verb + " the " + check.noun + " " + rest);
      case 2 -> (verb + " " + check.noun + " " + rest).strip().replace(' ', '_');
      case 3 -> camel("should " + base(verb) + " " + check.noun + " " + rest);
      default -> camel(check.noun + " is " + passive(verb) + " " + rest);
    };
  }

  private static String base(String verb) {
    String[] words = verb.split(" ", 2);
    String first =
        words[0].endsWith("ies")
            ? words[0].substring(0, words[0].length() - 3) + "y"
            : words[0].substring(0, words[0].length() - 1);
    return words.length > 1 ? first + " " + words[1] : first;
  }

  private static String passive(String verb) {
    String base = base(verb.split(" ", 2)[0]);
    return base.endsWith("e") ? base + "d" : base + "ed";
  }

  private static String camel(String words) {
    StringBuilder camel = new StringBuilder();
    for (String word : words.strip().split("[ -]+")) {
      camel.append(
          camel.length() == 0
              ? word
              : word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1));
    }
    return camel.toString();
  }

  /** The name of a suite. */
  String suite() {
    String noun = camel(one(NOUNS));
    List<String> tails =
        List.of(
            "Test",
            "RulesTest",
            "ServiceTest",
            "ResourceTest",
            "FlowTest",
            "LimitsTest",
            "ApiTest");
    return noun.substring(0, 1).toUpperCase(Locale.ROOT)
        + noun.substring(1)
        + tails.get(random.nextInt(tails.size()));
  }

  String parameters() {
    List<String> some = new ArrayList<>();
    for (int i = 0; i < 1 + random.nextInt(3); i++) {
      some.add(random.nextBoolean() ? Integer.toString(random.nextInt(100)) : one(NOUNS));
    }
    return "[" + String.join(", ", some) + "]";
  }

  private String one(String[] all) {
    return all[random.nextInt(all.length)];
  }
}
