package org.vinecellar.client.live;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;

/**
 * Tells what a result is whose test has come before, about as the whole part will be read at the
 * end: one more try, which takes the place of those before it, or another test of that name.
 */
final class LiveNames {
  private static final int MAX_KNOWN = 200_000;
  private static final int MAX_TRIES = 10_000;
  private static final long MAX_CHARS = 8_000_000;
  private static final int MAX_ATTEMPTS = 20;

  private final Map<Key128, Integer> seen = new HashMap<>();
  private final Map<Key128, List<Attempt>> tries = new HashMap<>();
  private long chars;

  TestResult of(TestResult result, Repeat repeat) {
    Key128 key = result.test().key();
    Integer before = seen.get(key);
    if (before == null) {
      if (seen.size() < MAX_KNOWN) {
        seen.put(key, 1);
      }
      return remembered(key, result);
    }
    boolean again =
        repeat == Repeat.RETRY || repeat == Repeat.SAME_TRY || result.kind() == ResultKind.SETUP;
    if (!again) {
      seen.put(key, before + 1);
      return result.ofTest(result.test().repetition(before + 1));
    }
    List<Attempt> all = new ArrayList<>(tries.getOrDefault(key, List.of()));
    all.addAll(result.attempts());
    return remembered(
        key, result.with(all.subList(Math.max(0, all.size() - MAX_ATTEMPTS), all.size())));
  }

  /** Only what failed is tried again. */
  private TestResult remembered(Key128 key, TestResult result) {
    if (result.outcome().isFailing() && tries.size() < MAX_TRIES && chars < MAX_CHARS) {
      chars += result.attempts().stream().mapToLong(Attempt::textChars).sum();
      tries.put(key, result.attempts());
    }
    return result;
  }
}
