package org.vinecellar.bench;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.results.TestResult;

/** A file through core's reader, with results made and dropped. */
final class CoreReading {
  private static final ResultSink NOWHERE =
      new ResultSink() {
        @Override
        public void first(int ordinal, TestResult result) {}

        @Override
        public void again(Again again) {}
      };

  private CoreReading() {}

  /** Fails when the file does not hold so many tests. */
  static void of(Path file, int tests) {
    SourceFile source =
        new SourceFile() {
          @Override
          public String name() {
            return file.toString();
          }

          @Override
          public InputStream open() throws IOException {
            return Files.newInputStream(file);
          }
        };
    var report = UploadReader.read(List.of(source), ReadLimits.DEFAULT, NOWHERE);
    if (report.total().tests() != tests) {
      throw new IllegalStateException("read " + report);
    }
  }
}
