package org.vinecellar.bench.grouping;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/**
 * Prints the key of each failure of some files, to be looked at; sorted by the label behind two
 * underscores.
 */
public final class Look {
  private Look() {}

  /** Takes names of files. */
  public static void main(String[] args) {
    for (String arg : args) {
      List<TestResult> results = ResultFiles.read(List.of(Path.of(arg)));
      CodeMap code =
          CodeMap.of(
              results.stream().map(r -> r.test().suite().name()).toList(), CodeSettings.NONE);
      Signer signer = new Signer(code);
      Map<String, List<String>> lines = new TreeMap<>();
      for (TestResult result : results) {
        Attempt last = result.attempts().get(result.attempts().size() - 1);
        if (!result.outcome().isFailing()) {
          continue;
        }
        Signature signature = signer.sign(result.test(), last.failures());
        String name = result.test().displayName();
        int cut = name.indexOf("__");
        String label = cut < 0 ? name : name.substring(cut + 2);
        lines
            .computeIfAbsent(label, k -> new ArrayList<>())
            .add(
                signature.key().replace('\n', '⏎')
                    + (signature.asks().isEmpty() ? "" : "   asks " + signature.asks()));
      }
      System.out.println("== " + arg);
      lines.forEach(
          (label, keys) ->
              keys.forEach(
                  key ->
                      System.out.printf(
                          "  %-24s %s%n",
                          label.length() > 24 ? label.substring(0, 24) : label, key)));
    }
  }
}
