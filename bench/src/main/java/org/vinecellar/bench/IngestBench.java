package org.vinecellar.bench;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.postgresql.PGConnection;
import org.vinecellar.client.command.VineCommand;

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
    Bench.progress("warming up");
    push("warm", Reports.write(folder.resolve("w.xml"), "org.warm", 20_000, 1, false));
    byte[] rows = rows();
    copy(rows);
    List<Double> fresh = new ArrayList<>();
    List<Double> known = new ArrayList<>();
    List<Double> freshRatio = new ArrayList<>();
    List<Double> knownRatio = new ArrayList<>();
    List<Double> reference = new ArrayList<>();
    for (int round = 0; round < ROUNDS; round++) {
      Path file = folder.resolve("push.xml");
      String prefix = "org.round" + round;
      double copy = copy(rows);
      double first = push(prefix, Reports.write(file, prefix, TESTS, 10 + round, false));
      double copyAgain = copy(rows);
      double second = push(prefix, Reports.write(file, prefix, TESTS, 50 + round, false));
      Bench.progress(
          String.format(
              Locale.ROOT,
              "round %d: COPY %.2f s, new tests %.2f s, COPY %.2f s, known tests %.2f s",
              round,
              copy,
              first,
              copyAgain,
              second));
      fresh.add(first);
      known.add(second);
      reference.add(copy);
      reference.add(copyAgain);
      freshRatio.add(copy / first);
      knownRatio.add(copyAgain / second);
    }
    String against =
        String.format(
            Locale.ROOT, "COPY of the bare rows: %.0f rows/s", TESTS / Bench.median(reference));
    return List.of(
        row("results of tests that are known", known, knownRatio, against),
        row("results of tests never seen before", fresh, freshRatio, against));
  }

  private static Bench.Row row(
      String what, List<Double> seconds, List<Double> ratios, String against) {
    double ratio = Bench.median(ratios);
    return new Bench.Row(
        "`vine push` of 200 000 " + what,
        String.format(Locale.ROOT, "%.0f results/s", TESTS / Bench.median(seconds)),
        against,
        String.format(Locale.ROOT, "%.2f", ratio),
        "≥ 0.5",
        ratio >= 0.5);
  }

  private double push(String stream, Path file) throws IOException {
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {"push", file.toString(), "--stream", "bench/" + stream};
    long begun = System.nanoTime();
    int code = VineCommand.run(words, nowhere, System.err, target.environment());
    double seconds = (System.nanoTime() - begun) / 1e9;
    if (code != 0) {
      throw new IOException("the push ended with " + code);
    }
    return seconds;
  }

  private static byte[] rows() {
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < TESTS; i++) {
      text.append("1\t").append(i * 7919L % TESTS).append('\t').append(i % 50 == 0 ? 1 : 0);
      text.append('\t').append(i % 1000).append("\t2026-11-20 03:00:00+00\n");
    }
    return text.toString().getBytes(StandardCharsets.US_ASCII);
  }

  private double copy(byte[] rows) throws SQLException, IOException {
    try (Connection connection = target.connection();
        var statement = connection.createStatement()) {
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
