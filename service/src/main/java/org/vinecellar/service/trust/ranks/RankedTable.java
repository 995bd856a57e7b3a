package org.vinecellar.service.trust.ranks;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.function.IntFunction;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.vinecellar.service.web.SheetText;

/** Tests with their figures as a table: RFC 4180, UTF-8, with a heading. */
final class RankedTable {
  private static final String[] HEADING = {
    "test",
    "variant",
    "stream",
    "ran",
    "failed",
    "alone",
    "retried_ms",
    "per_week",
    "ms",
    "before_ms",
    "slower_since",
    "cost_per_week_ms",
    "last_run",
    "last_at",
    "missing_runs",
    "first_run",
    "quarantined_until"
  };

  private RankedTable() {}

  /**
   * @param first page; further ones are asked for by how many were told, until one is empty
   * @param most so many at most
   */
  static void write(
      OutputStream out, List<RankedBody> first, IntFunction<List<RankedBody>> page, int most)
      throws IOException {
    Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
    CSVPrinter table = new CSVPrinter(writer, CSVFormat.RFC4180);
    table.printRecord((Object[]) HEADING);
    int told = 0;
    List<RankedBody> some = first;
    while (!some.isEmpty() && told < most) {
      for (RankedBody one : some) {
        table.printRecord(
            SheetText.harmless(one.test()),
            SheetText.harmless(one.variant()),
            SheetText.harmless(one.stream()),
            one.ran(),
            one.failed(),
            one.alone(),
            one.retriedMillis(),
            one.weekly(),
            one.millis(),
            one.beforeMillis(),
            one.slowerSince(),
            one.weeklyCostMillis(),
            one.lastRun(),
            one.lastAt(),
            one.missing(),
            one.firstRun(),
            one.quarantined());
      }
      told += some.size();
      some = page.apply(told);
    }
    table.flush();
  }
}
