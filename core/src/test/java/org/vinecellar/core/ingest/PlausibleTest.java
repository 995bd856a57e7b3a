package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.Job;

class PlausibleTest {
  private static final String FILE =
      """
      <testsuite name="load" timestamp="%s">
        <testcase classname="load" name="list fares" time="1"/>
        <testcase classname="load" name="book a berth" time="%s"/>
        <testcase classname="load" name="cancel" time="%s"/>
      </testsuite>
      """;

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      nullValues = "-",
      textBlock =
          """
          2026-11-20T03:00:00 | 900   | -     | -
          2026-11-20T03:00:00 | 4300  | -     | “book a berth” would have lasted 4300 s, which is until after it arrived, and so would 1 more
          2026-11-22T03:00:00 | 4300  | -     | -
          2026-11-20T02:00:00 | 4300  | 60000 | “book a berth” would have lasted 4300 s, which is longer than its job, and so would 1 more
          2026-11-20T02:00:00 | 650   | 60000 | -
          """)
  void whatCannotBeIsSaid(
      String started, String seconds, @Nullable Long job, @Nullable String problem) {
    String file = String.format(FILE, started, seconds, seconds);

    UploadReport report =
        UploadReader.read(
            List.of(Recording.source("load.xml", file.getBytes(StandardCharsets.UTF_8))),
            ReadLimits.DEFAULT,
            new UploadReader.Hints(
                CsvColumns.NONE,
                Variant.NONE,
                PathVariants.NONE,
                job == null ? null : new Job(Job.Status.PASSED, null, null, null, job),
                Instant.parse("2026-11-20T04:00:00Z")),
            new AttachmentFiles<>(),
            new Recording());

    assertThat(report.files().get(0).problems())
        .isEqualTo(
            problem == null
                ? List.of()
                : List.of(
                    problem
                        + ": the file's durations are probably in another unit than its format"
                        + " says"));
  }
}
