package org.vinecellar.core.triage;

import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/** A failure that was recorded, with its cause and its signature. */
record Failing(String file, String test, String cause, Signature signature) {
  private static final Pattern CAUSE = Pattern.compile("__(\\w+)");

  /** Those of some recorded files, which are of one run. */
  static List<Failing> of(List<String> files) {
    List<TestResult> results = new ArrayList<>();
    List<String> from = new ArrayList<>();
    for (String file : files) {
      ResultSink sink =
          new ResultSink() {
            @Override
            public void first(int ordinal, TestResult result) {
              if (result.outcome().isFailing()) {
                results.add(result);
                from.add(file);
              }
            }

            @Override
            public void again(Again again) {}
          };
      UploadReader.read(List.of(source(file)), ReadLimits.DEFAULT, sink);
    }
    Signer signer =
        new Signer(
            CodeMap.of(
                results.stream().map(r -> r.test().suite().name()).toList(), CodeSettings.NONE));
    List<Failing> all = new ArrayList<>();
    for (int i = 0; i < results.size(); i++) {
      TestResult result = results.get(i);
      Attempt last = result.attempts().get(result.attempts().size() - 1);
      String name = result.test().suite() + "#" + result.test().displayName();
      Matcher cause = CAUSE.matcher(name);
      all.add(
          new Failing(
              from.get(i),
              name,
              cause.find() ? cause.group(1) : name,
              signer.sign(result.test(), last.failures())));
    }
    return all;
  }

  private static SourceFile source(String file) {
    return new SourceFile() {
      @Override
      public String name() {
        return file;
      }

      @Override
      public InputStream open() {
        return Objects.requireNonNull(
            Failing.class.getResourceAsStream("/failures/" + file), "no file " + file);
      }
    };
  }
}
