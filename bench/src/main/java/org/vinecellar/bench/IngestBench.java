package org.vinecellar.bench;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.postgresql.PGConnection;

/** {@code vine push} until acknowledged and visible, against COPY of the bare rows. */
final class IngestBench {
  private static final int TESTS = 200_000;
  private static final int ROUNDS = 5;

  private final Path folder;
  private final Target target;

  IngestBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    try (Connection connection = target.connection()) {
      return run(connection, new Watched(target, connection));
    }
  }

  private List<Bench.Row> run(Connection connection, Watched watched) throws Exception {
    Bench.progress("warming up");
    watched.push(
        "bench/warm", Reports.write(folder.resolve("w.xml"), "org.warm", 20_000, 1, false));
    byte[] rows = rows();
    copy(connection, rows);
    List<Timed> fresh = new ArrayList<>();
    List<Timed> known = new ArrayList<>();
    for (int round = 0; round < ROUNDS; round++) {
      Path file = folder.resolve("push.xml");
      String prefix = "org.round" + round;
      String stream = "bench/" + prefix;
      watched.settled();
      double copy = copy(connection, rows);
      Timed first =
          new Timed(
              copy, watched.push(stream, Reports.write(file, prefix, TESTS, 10 + round, false)));
      watched.settled();
      double again = copy(connection, rows);
      Timed second =
          new Timed(
              again, watched.push(stream, Reports.write(file, prefix, TESTS, 50 + round, false)));
      fresh.add(first);
      known.add(second);
      Bench.progress("new tests: " + first + "; known tests: " + second);
    }
    return List.of(
        row("results of tests that are known", known),
        row("results of tests never seen before", fresh),
        told("results of tests that are known", known),
        told("results of tests never seen before", fresh));
  }

  /** An upload, and COPY right before it. */
  private record Timed(double copy, Watched.Took push) {
    @Override
    public String toString() {
      return String.format(
          Locale.ROOT,
          "COPY %.2f s, there after %.2f s, explained after %.2f s, told after %.2f s",
          copy,
          push.there(),
          push.explained(),
          push.ended());
    }
  }

  private static Bench.Row row(String what, List<Timed> all) {
    double ratio = Bench.median(all.stream().map(one -> one.copy / one.push.there()).toList());
    return new Bench.Row(
        "`vine push` of 200 000 " + what + ", until they can be asked for",
        String.format(
            Locale.ROOT,
            "%.0f results/s",
            TESTS / Bench.median(all.stream().map(one -> one.push.there()).toList())),
        String.format(
            Locale.ROOT,
            "COPY of the bare rows: %.0f rows/s",
            TESTS / Bench.median(all.stream().map(Timed::copy).toList())),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≥ 0.5",
        ratio >= 0.5);
  }

  private static Bench.Row told(String what, List<Timed> all) {
    return new Bench.Row(
        "and of " + what + ", until it has told what is new in them",
        String.format(
            Locale.ROOT,
            "%.1f s",
            Bench.median(all.stream().map(one -> one.push.ended()).toList())),
        String.format(
            Locale.ROOT,
            "until they can be asked for: %.1f s",
            Bench.median(all.stream().map(one -> one.push.there()).toList())),
        "",
        "",
        true);
  }

  private static byte[] rows() {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < TESTS; i++) {
      text.append("1\t").append(i * 7919L % TESTS).append('\t').append(i % 50 == 0 ? 1 : 0);
      text.append('\t').append(i % 1000).append("\t2026-11-20 03:00:00+00\n");
    }
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }

  private static double copy(Connection connection, byte[] rows) throws SQLException, IOException {
    try (var statement = connection.createStatement()) {
      statement.execute("drop table if exists bench_reference");
      statement.execute(
          "create table bench_reference (run_id bigint, test_id bigint, outcome smallint,"
              + " duration_ms int, started timestamptz)");
      statement.execute("create index on bench_reference (run_id, test_id)");
      statement.execute("create index on bench_reference (test_id, run_id)");
      long begun = System.nanoTime();
      connection
          .unwrap(PGConnection.class)
          .getCopyAPI()
          .copyIn("copy bench_reference from stdin", new ByteArrayInputStream(rows));
      double seconds = (System.nanoTime() - begun) / 1e9;
      statement.execute("drop table bench_reference");
      return seconds;
    }
  }
}
