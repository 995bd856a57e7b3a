package org.vinecellar.core.trust.renames;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * The words of a name that say what is checked: without those that only make a sentence, without
 * endings, and with one word for those that mean the same in names of tests.
 *
 * @param content stems, in their order
 * @param marks numbers and negations: where these differ, something else is checked
 */
record NameWords(List<String> content, Set<String> marks) {
  private static final Set<String> FILLING =
      Set.of(
          "a",
          "an",
          "and",
          "any",
          "are",
          "as",
          "at",
          "be",
          "been",
          "being",
          "by",
          "can",
          "case",
          "check",
          "checks",
          "correct",
          "correctly",
          "could",
          "do",
          "does",
          "ensure",
          "ensures",
          "for",
          "from",
          "get",
          "gets",
          "given",
          "got",
          "had",
          "has",
          "have",
          "if",
          "in",
          "into",
          "is",
          "it",
          "its",
          "may",
          "must",
          "of",
          "on",
          "once",
          "or",
          "over",
          "properly",
          "scenario",
          "shall",
          "should",
          "so",
          "spec",
          "still",
          "successfully",
          "test",
          "tests",
          "that",
          "the",
          "their",
          "them",
          "then",
          "there",
          "this",
          "to",
          "under",
          "verify",
          "verifies",
          "via",
          "was",
          "we",
          "were",
          "what",
          "when",
          "where",
          "which",
          "while",
          "will",
          "with",
          "work",
          "works",
          "would",
          "you");

  private static final Set<String> NEGATIONS =
      Set.of(
          "no", "not", "never", "without", "none", "cannot", "cant", "doesnt", "isnt", "wont",
          "neither", "nor", "except", "unless");

  /** Words that tests use for the same. */
  private static final List<String> ALIKE =
      List.of(
          "reject refuse deny decline disallow forbid",
          "accept allow permit admit",
          "return yield give answer deliver",
          "throw raise fail error",
          "create make build add insert",
          "remove delete drop erase clear",
          "show display render present print",
          "compute calculate determine derive",
          "ignore skip omit",
          "save store persist keep write",
          "load fetch read retrieve obtain lookup find",
          "update change modify edit alter adjust",
          "send emit publish dispatch",
          "begin start open launch",
          "end stop finish close terminate",
          "empty blank",
          "invalid malformed bad wrong illegal incorrect",
          "valid good right legal",
          "missing absent lacking",
          "big large huge",
          "small little tiny",
          "fast quick",
          "expect want require need demand",
          "warn notify alert inform tell",
          "compare match equal same",
          "user customer client",
          "price fare cost",
          "sum total",
          "error failure exception",
          "duplicate twice double",
          "keep retain preserve hold",
          "apply use",
          "limit cap maximum max",
          "minimum min least",
          "repeat retry again",
          "parse read",
          "first initial",
          "last final",
          "list enumerate");

  private static final List<String> ENDINGS =
      List.of(
          "ations", "ation", "ments", "ment", "ings", "ing", "ions", "ion", "edly", "ied", "ies",
          "ers", "ed", "er", "es", "ly", "al", "s", "e", "y");

  private static final Map<String, String> SAME = new HashMap<>();

  static {
    for (String words : ALIKE) {
      String[] all = words.split(" ");
      for (String word : all) {
        SAME.putIfAbsent(stem(word), stem(all[0]));
      }
    }
  }

  static NameWords of(String name) {
    List<String> content = new ArrayList<>();
    Set<String> marks = new HashSet<>();
    for (String word : split(name)) {
      if (Character.isDigit(word.charAt(0))) {
        marks.add(word);
      } else if (NEGATIONS.contains(word)) {
        marks.add("not");
      } else if (!FILLING.contains(word)) {
        String stem = stem(word);
        content.add(SAME.getOrDefault(stem, stem));
      }
    }
    return new NameWords(content, marks);
  }

  /** Words in small letters: at changes of case, at digits, and at what is neither. */
  static List<String> split(String name) {
    List<String> words = new ArrayList<>();
    StringBuilder word = new StringBuilder();
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      if (c == '\'' || c == '’') {
        continue;
      }
      char before = word.length() == 0 ? ' ' : name.charAt(i - 1);
      boolean begins =
          !Character.isLetterOrDigit(c)
              || Character.isDigit(c) != Character.isDigit(before)
              || (Character.isUpperCase(c)
                  && (!Character.isUpperCase(before)
                      || (i + 1 < name.length() && Character.isLowerCase(name.charAt(i + 1)))));
      if (begins && word.length() > 0) {
        words.add(word.toString().toLowerCase(Locale.ROOT));
        word.setLength(0);
      }
      if (Character.isLetterOrDigit(c)) {
        word.append(c);
      }
    }
    if (word.length() > 0) {
      words.add(word.toString().toLowerCase(Locale.ROOT));
    }
    return words;
  }

  /** A word without its endings: what is left need not be a word, but is the same for its forms. */
  static String stem(String word) {
    String stem = word;
    for (String ending : ENDINGS) {
      if (stem.endsWith(ending) && stem.length() - ending.length() >= 3) {
        stem = stem.substring(0, stem.length() - ending.length());
        break;
      }
    }
    while (stem.length() > 3 && "ey".indexOf(stem.charAt(stem.length() - 1)) >= 0) {
      stem = stem.substring(0, stem.length() - 1);
    }
    int last = stem.length() - 1;
    boolean doubled =
        last > 2
            && stem.charAt(last) == stem.charAt(last - 1)
            && "lsz".indexOf(stem.charAt(last)) < 0;
    return doubled ? stem.substring(0, last) : stem;
  }
}
