package org.vinecellar.bench;

import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.vinecellar.client.command.VineCommand;

/** How long a job waits for {@code vine push} of one small file. */
final class ClientBench {
  private static final int ROUNDS = 15;
  private static final double MOST = 8;

  private final Path folder;
  private final Target target;

  ClientBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    warmUp();
    List<Double> java = new ArrayList<>();
    List<Double> push = new ArrayList<>();
    String vine = Path.of(System.getProperty("bench.root"), "vine").toString();
    for (int round = -2; round < ROUNDS; round++) {
      Path file = folder.resolve("small.xml");
      Files.writeString(
          file, "<testsuite name='S'><testcase name='case " + round + "'/></testsuite>");
      double empty = seconds("java", "-version");
      double sent = seconds(vine, "push", file.toString(), "--stream", "bench/client");
      if (round >= 0) {
        java.add(empty);
        push.add(sent);
      }
    }
    double ratio = Bench.median(push) / Bench.median(java);
    return List.of(
        new Bench.Row(
            "`./vine push` of one small file",
            String.format(Locale.ROOT, "%.0f ms", Bench.median(push) * 1000),
            String.format(Locale.ROOT, "`java -version`: %.0f ms", Bench.median(java) * 1000),
            String.format(Locale.ROOT, "%.1f", ratio),
            "≤ 8",
            ratio <= MOST));
  }

  /** A portal has been up for a while when a job sends to it. */
  private void warmUp() throws Exception {
    PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
    for (int i = 0; i < 300; i++) {
      Path file = folder.resolve("warm.xml");
      Files.writeString(file, "<testsuite name='W'><testcase name='case " + i + "'/></testsuite>");
      String[] push = {"push", file.toString(), "--stream", "bench/warm"};
      if (VineCommand.run(push, nowhere, System.err, target.environment()) != 0) {
        throw new IllegalStateException("the push ended badly");
      }
    }
  }

  private double seconds(String... command) throws Exception {
    ProcessBuilder process =
        new ProcessBuilder(command)
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(folder.resolve("said").toFile());
    process.environment().putAll(target.environment());
    process.environment().put("VINE_SPOOL", folder.resolve("spool").toString());
    long begun = System.nanoTime();
    int code = process.start().waitFor();
    double seconds = (System.nanoTime() - begun) / 1e9;
    if (code != 0) {
      throw new IllegalStateException(
          String.join(" ", command) + ": " + Files.readString(folder.resolve("said")));
    }
    return seconds;
  }
}
