package org.vinecellar.core.triage.code;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TraceLinesTest {
  @Test
  void aTraceHasAsManyLinesAsItsText() {
    String trace = "a\r\n\n\tat org.skerrow.Fare.round(Fare.java:12)\n";

    assertThat(TraceLines.of(trace))
        .extracting(TraceLine::text)
        .containsExactly("a", "", "\tat org.skerrow.Fare.round(Fare.java:12)", "");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "at org.skerrow.Fare.round(Fare.java:12) | OWN",
        "at org.junit.Assert.fail(Assert.java:1) | FRAMEWORK",
        "at org.springframework.web.Filter.doFilter(Filter.java:1) | FRAMEWORK",
        "at java.base/java.lang.Thread.run(Thread.java:840) | FRAMEWORK",
        "... 14 more | FRAMEWORK",
        "Caused by: java.io.IOException: gone | TEXT",
        "at Object.<anonymous> (/app/e2e/a.spec.ts:41:27) | OWN",
        "at run (node:internal/process/task_queues:95:5) | FRAMEWORK",
        "at x (/app/node_modules/jest/build/a.js:1:2) | FRAMEWORK",
        "tests/test_kiosk.py:57: AssertionError | OWN",
        "File \"/usr/lib/python3/site-packages/x.py\", line 3, in f | FRAMEWORK",
        "/tmp/php/FareTest.php:10 | OWN",
        "#3 /app/vendor/phpunit/phpunit/src/Framework/TestCase.php(12): x->run() | FRAMEWORK",
        "at Skerrow.Fares.Table.Priced(Int32 id) in /src/Table.cs:line 12 | OWN",
        "at Npgsql.Internal.NpgsqlConnector.Open(NpgsqlTimeout t) in /_/x.cs:line 3 | FRAMEWORK",
        "./lib/fares.rb:12:in `priced' | OWN",
        "/usr/lib/ruby/gems/3.1.0/gems/rspec-core-3.12/lib/x.rb:1:in `run' | FRAMEWORK",
        "(skerrow 0.1.0) lib/fares.ex:12: Fares.priced/1 | OWN",
        "(ex_unit 1.14.0) lib/ex_unit/runner.ex:1: ExUnit.Runner.run/1 | FRAMEWORK",
        "a plain line | TEXT",
      })
  void frames(String line, TraceLine.Kind kind) {
    assertThat(TraceLines.of(line).get(0).kind()).isEqualTo(kind);
  }

  @Test
  void aPlaceMayTakeTwoLines() {
    String trace =
        "goroutine 7 [running]:\n"
            + "skerrow.test/fares.(*Table).Priced(0x0)\n\t/app/fares/table.go:12 +0x38\n"
            + "testing.tRunner(0x1)\n\t/usr/local/go/src/testing/testing.go:1689 +0xfb";

    assertThat(TraceLines.of(trace))
        .extracting(line -> line.kind().name())
        .containsExactly("TEXT", "OWN", "OWN", "FRAMEWORK", "FRAMEWORK");
  }
}
