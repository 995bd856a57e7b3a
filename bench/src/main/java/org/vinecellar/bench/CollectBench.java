package org.vinecellar.bench;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.postgresql.PGConnection;
import org.vinecellar.client.command.VineCommand;

/** Parts that come at once, and attachments. */
final class CollectBench {
  private static final int ROUNDS = 5;
  private static final int PARTS = 8;
  private static final int TESTS = 25_000;
  private static final int ATTACHMENTS = 64;
  private static final int ATTACHMENT_BYTES = 1 << 20;

  private final Path folder;
  private final Target target;

  CollectBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    List<Bench.Row> rows = new ArrayList<>();
    rows.add(parts());
    rows.add(attachments());
    return rows;
  }

  private Bench.Row parts() throws Exception {
    List<Double> ratios = new ArrayList<>();
    List<Double> rates = new ArrayList<>();
    List<Double> singles = new ArrayList<>();
    for (int round = 0; round <= ROUNDS; round++) {
      List<Path> files = new ArrayList<>();
      for (int i = 0; i < PARTS; i++) {
        Path file = folder.resolve("part" + i + ".xml");
        files.add(Reports.write(file, "org.part" + i, TESTS, 100 + round, false));
      }
      long begun = System.nanoTime();
      for (int i = 0; i < PARTS; i++) {
        push(files.get(i), "bench/one", "one-" + round, i, List.of());
      }
      double one = (System.nanoTime() - begun) / 1e9;
      ExecutorService senders = Executors.newFixedThreadPool(PARTS);
      List<Future<?>> sent = new ArrayList<>();
      String key = "all-" + round;
      begun = System.nanoTime();
      for (int i = 0; i < PARTS; i++) {
        int part = i;
        sent.add(senders.submit(() -> push(files.get(part), "bench/all", key, part, List.of())));
      }
      for (Future<?> future : sent) {
        future.get();
      }
      double all = (System.nanoTime() - begun) / 1e9;
      senders.shutdown();
      Bench.progress(
          String.format(Locale.ROOT, "8 parts: one by one %.2f s, at once %.2f s", one, all));
      if (round > 0) {
        ratios.add(one / all);
        rates.add(PARTS * TESTS / all);
        singles.add(PARTS * TESTS / one);
      }
    }
    double ratio = Bench.median(ratios);
    return new Bench.Row(
        "8 parts of 25 000 results sent at once",
        String.format(Locale.ROOT, "%.0f results/s", Bench.median(rates)),
        String.format(Locale.ROOT, "one by one: %.0f results/s", Bench.median(singles)),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≥ 1.3",
        ratio >= 1.3);
  }

  private Bench.Row attachments() throws Exception {
    Random random = new Random(7);
    List<Double> ratios = new ArrayList<>();
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    double megabytes = (double) ATTACHMENTS * ATTACHMENT_BYTES / 1e6;
    for (int round = 0; round <= ROUNDS; round++) {
      Path shots = Files.createDirectories(folder.resolve("shots" + round));
      StringBuilder xml = new StringBuilder("<testsuite name='shots" + round + "'>");
      byte[] bytes = new byte[ATTACHMENT_BYTES];
      for (int i = 0; i < ATTACHMENTS; i++) {
        random.nextBytes(bytes);
        Files.write(shots.resolve("t" + i + ".bin"), bytes);
        xml.append("<testcase name='t").append(i).append("'/>");
      }
      Path file = Files.writeString(folder.resolve("shots.xml"), xml.append("</testsuite>"));
      double copy = copy(shots);
      long begun = System.nanoTime();
      push(file, "bench/shots", "shots-" + round, 0, List.of("--attach", shots.toString()));
      double push = (System.nanoTime() - begun) / 1e9;
      Bench.progress(
          String.format(Locale.ROOT, "attachments: COPY %.2f s, push %.2f s", copy, push));
      if (round > 0) {
        ratios.add(copy / push);
        ours.add(megabytes / push);
        theirs.add(megabytes / copy);
      }
    }
    double ratio = Bench.median(ratios);
    return new Bench.Row(
        "`vine push` with 64 attachments of 1 MiB",
        String.format(Locale.ROOT, "%.0f MB/s", Bench.median(ours)),
        String.format(
            Locale.ROOT, "COPY of the same bytes into a table: %.0f MB/s", Bench.median(theirs)),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≥ 0.5",
        ratio >= 0.5);
  }

  private double copy(Path shots) throws SQLException, IOException {
    ByteArrayOutputStream rows = new ByteArrayOutputStream();
    for (int i = 0; i < ATTACHMENTS; i++) {
      byte[] bytes = Files.readAllBytes(shots.resolve("t" + i + ".bin"));
      rows.writeBytes((i + "\t\\\\x").getBytes(StandardCharsets.US_ASCII));
      rows.writeBytes(HexFormat.of().formatHex(bytes).getBytes(StandardCharsets.US_ASCII));
      rows.write('\n');
    }
    try (Connection connection = target.connection();
        var statement = connection.createStatement()) {
      statement.execute("drop table if exists bench_bytes");
      statement.execute("create table bench_bytes (id int primary key, content bytea not null)");
      statement.execute("alter table bench_bytes alter column content set storage external");
      long begun = System.nanoTime();
      connection
          .unwrap(PGConnection.class)
          .getCopyAPI()
          .copyIn("copy bench_bytes from stdin", new ByteArrayInputStream(rows.toByteArray()));
      double seconds = (System.nanoTime() - begun) / 1e9;
      statement.execute("drop table bench_bytes");
      return seconds;
    }
  }

  private void push(Path file, String stream, String run, int part, List<String> more) {
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    List<String> words =
        new ArrayList<>(
            List.of(
                "push", file.toString(), "--stream", stream, "--run", run, "--part", "p" + part));
    words.addAll(more);
    int code =
        VineCommand.run(words.toArray(String[]::new), nowhere, System.err, target.environment());
    if (code != 0) {
      throw new IllegalStateException("the push ended with " + code);
    }
  }
}
