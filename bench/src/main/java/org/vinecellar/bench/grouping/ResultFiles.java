package org.vinecellar.bench.grouping;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.results.TestResult;

/** Reads result files as the portal does. */
final class ResultFiles {
  private ResultFiles() {}

  /** The results of some files, in the order of the files; further tries are left out. */
  static List<TestResult> read(List<Path> files) {
    List<TestResult> results = new ArrayList<>();
    ResultSink sink =
        new ResultSink() {
          @Override
          public void first(int ordinal, TestResult result) {
            results.add(result);
          }

          @Override
          public void again(Again again) {
            // what stands is told by the first
          }
        };
    List<SourceFile> sources = new ArrayList<>();
    for (Path file : files) {
      sources.add(
          new SourceFile() {
            @Override
            public String name() {
              return file.toString();
            }

            @Override
            public InputStream open() throws IOException {
              return Files.newInputStream(file);
            }
          });
    }
    UploadReader.read(sources, ReadLimits.DEFAULT, sink);
    return results;
  }
}
