package org.vinecellar.core.triage.reading;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.signature.Signer;

class PlaceMemoTest {
  private static final String SUITE = "org.skerrow.Watch";
  private static final TestId TEST = TestId.of(SuitePath.of(List.of(SUITE)), "opens", null);

  /** More places than it remembers, in any order, by several at once, under two lines each. */
  @Test
  void whatOthersReadBeforeChangesNothing() {
    PlaceMemo shared = new PlaceMemo();
    CodeMap code = CodeMap.of(List.of(SUITE), CodeSettings.NONE);
    int[] order = new Random(7).ints(60_000, 0, 45_000).toArray();

    List<String> wrong =
        IntStream.of(order)
            .parallel()
            .mapToObj(
                n -> {
                  Signer signer = new Signer(code, shared);
                  String key = signer.sign(TEST, List.of(failure(n))).key();
                  return key.equals(expected(n)) ? "" : expected(n) + " was " + key;
                })
            .filter(one -> !one.isEmpty())
            .toList();

    assertThat(wrong).isEmpty();
  }

  private static Failure failure(int n) {
    String own =
        n % 2 == 0
            ? "java.lang.IllegalStateException: no\n\tat org.skerrow.Fare"
                + n
                + ".priced(X.java:9)\n"
            : "Traceback (most recent call last):\n  File \"/app/fare"
                + n
                + ".py\", line 9, in priced\n";
    String last =
        n % 2 == 0 ? "\tat java.base/java.lang.Thread.run(Thread.java:840)" : "KeyError: 'x'";
    return new Failure(null, null, own + last);
  }

  private static String expected(int n) {
    return n % 2 == 0
        ? "frame fare" + n + ".priced|illegalstate"
        : "frame py:fare" + n + ".priced|key";
  }
}
