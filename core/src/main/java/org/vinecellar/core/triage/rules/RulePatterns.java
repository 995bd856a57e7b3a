package org.vinecellar.core.triage.rules;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.phrases.PhraseTable;

/** The patterns of many rules; which of them are worth to be tried on a text is told at once. */
public final class RulePatterns {
  /** Both fold to a letter of ASCII where capitals do not matter. */
  private static final char KELVIN = '\u212a';

  private static final char LONG_S = '\u017f';

  private final List<@Nullable RulePattern> patterns;
  private final List<Integer> rules = new ArrayList<>();
  private final BitSet always = new BitSet();
  private final PhraseTable words;

  /**
   * @param patterns of each rule; null for one without
   */
  public RulePatterns(List<@Nullable RulePattern> patterns) {
    this.patterns = new ArrayList<>(patterns);
    List<String> all = new ArrayList<>();
    for (int rule = 0; rule < patterns.size(); rule++) {
      RulePattern pattern = patterns.get(rule);
      Optional<Set<String>> needed = pattern == null ? Optional.empty() : pattern.needs();
      if (needed.isEmpty()) {
        always.set(rule);
      } else {
        for (String word : needed.get()) {
          all.add(word);
          rules.add(rule);
        }
      }
    }
    this.words = PhraseTable.of(all);
  }

  /** Whether a rule has a pattern. */
  public boolean has(int rule) {
    return patterns.get(rule) != null;
  }

  /** The rules whose patterns could stand in a text. */
  public BitSet worthTrying(String text) {
    BitSet worth = (BitSet) always.clone();
    if (text.indexOf(KELVIN) >= 0 || text.indexOf(LONG_S) >= 0) {
      worth.set(0, patterns.size());
    } else {
      words.search(text, (phrase, end) -> worth.set(rules.get(phrase)));
    }
    return worth;
  }

  /** Whether the pattern of a rule stands in a text, if it has one. */
  public boolean isIn(int rule, String text) {
    RulePattern pattern = patterns.get(rule);
    return pattern == null || pattern.isIn(text);
  }
}
