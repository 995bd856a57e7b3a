package org.vinecellar.core.triage.checks;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.vinecellar.core.phrases.PhraseTable;

/** Spellings, and what they need in a text, found for all of them in one pass. */
final class Forms {
  private final PhraseTable needs;

  /** For each need, the number of its spelling. */
  private final int[] of;

  /** Spellings with needs that the table cannot find. */
  private final BitSet always = new BitSet();

  Forms(List<Form> forms) {
    List<String> phrases = new ArrayList<>();
    List<Integer> numbers = new ArrayList<>();
    for (int i = 0; i < forms.size(); i++) {
      for (String part : forms.get(i).needs()) {
        String need = part.charAt(0) == Form.LINE ? part.substring(1) : part;
        if (need.chars().allMatch(c -> c > ' ' - 1 && c < 0x7f) && !need.isBlank()) {
          phrases.add(need.toLowerCase(java.util.Locale.ROOT));
          numbers.add(i);
        } else {
          always.set(i);
        }
      }
    }
    needs = PhraseTable.of(phrases);
    of = numbers.stream().mapToInt(Integer::intValue).toArray();
  }

  /** The numbers of those that may fit a text. */
  BitSet mayFit(String text) {
    BitSet found = (BitSet) always.clone();
    needs.search(text, (phrase, end) -> found.set(of[phrase]));
    return found;
  }
}
