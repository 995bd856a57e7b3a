package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.client.command.VineCommand;

/** A run that is piped in at a steady pace: how soon its results are seen, and what that takes. */
final class LiveBench {
  private static final int EVENTS_A_SECOND = 2000;
  private static final int EVENTS_A_TEST = 2;
  private static final int SECONDS = 300;
  private static final int LOOK_EVERY_SECONDS = 5;
  private static final int PIPE_BYTES = 1 << 20;
  private static final Pattern TESTS = Pattern.compile("\"tests\":(\\d+)");
  private static final Pattern RESIDENT = Pattern.compile("VmRSS:\\s+(\\d+) kB");

  private final Target target;

  LiveBench(Target target) {
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    PipedOutputStream out = new PipedOutputStream();
    PipedInputStream in = new PipedInputStream(out, PIPE_BYTES);
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {"pipe", "--stream", "bench/live", "--quiet"};
    CompletableFuture<Integer> pipe =
        CompletableFuture.supplyAsync(
            () -> VineCommand.run(words, in, nowhere, System.err, target.environment()));
    List<Double> delays = new ArrayList<>();
    long resident = 0;
    long begun = System.nanoTime();
    int tests = 0;
    try (out) {
      for (int second = 1; second <= SECONDS; second++) {
        StringBuilder events = new StringBuilder();
        for (int i = 0; i < EVENTS_A_SECOND / EVENTS_A_TEST; i++) {
          event(events, tests++);
        }
        out.write(events.toString().getBytes(StandardCharsets.UTF_8));
        out.flush();
        resident = Math.max(resident, residentMegabytes());
        if (second % LOOK_EVERY_SECONDS == 0) {
          delays.add(untilSeen(tests));
        }
        if (second % 60 == 0) {
          Bench.progress(second + " s piped, " + tests + " tests, last delay " + last(delays));
        }
        long due = begun + TimeUnit.SECONDS.toNanos(second) - System.nanoTime();
        TimeUnit.NANOSECONDS.sleep(Math.max(0, due));
      }
    }
    double took = (System.nanoTime() - begun) / 1e9;
    long ended = System.nanoTime();
    if (pipe.get() != 0) {
      throw new IllegalStateException("the pipe ended with " + pipe.get());
    }
    double whole = (System.nanoTime() - ended) / 1e9;
    Collections.sort(delays);
    double worst = delays.get(delays.size() - 1);
    return List.of(
        new Bench.Row(
            "live: " + EVENTS_A_SECOND + " events/s for " + SECONDS + " s",
            String.format(
                Locale.ROOT,
                "seen after %.2f s at worst, %.2f s in the middle (%.0f events/s sent)",
                worst,
                Bench.median(delays),
                tests * EVENTS_A_TEST / took),
            "at the end the whole took " + String.format(Locale.ROOT, "%.1f s", whole),
            "",
            "≤ 2 s",
            worst <= 2),
        new Bench.Row(
            "live: the service's memory (-Xmx512m)",
            resident + " MB resident at most",
            "",
            "",
            "",
            true));
  }

  private static void event(StringBuilder events, int n) {
    String of = "\",\"Package\":\"skerrow.example/p" + n / 1000 + "\",\"Test\":\"TestRoute" + n;
    events.append("{\"Action\":\"run").append(of).append("\"}\n");
    events.append("{\"Action\":\"pass").append(of).append("\",\"Elapsed\":0.01}\n");
  }

  private static String last(List<Double> delays) {
    return String.format(Locale.ROOT, "%.2f s", delays.get(delays.size() - 1));
  }

  /** Seconds until the run tells of so many tests. */
  private double untilSeen(int tests) throws IOException, InterruptedException {
    long begun = System.nanoTime();
    while (true) {
      Matcher seen = TESTS.matcher(target.get("runs?limit=1&stream=bench/live"));
      double seconds = (System.nanoTime() - begun) / 1e9;
      if (seen.find() && Integer.parseInt(seen.group(1)) >= tests) {
        return seconds;
      }
      if (seconds > 60) {
        throw new IllegalStateException("results were not seen within a minute");
      }
      Thread.sleep(50);
    }
  }

  private long residentMegabytes() throws IOException {
    Matcher kilobytes =
        RESIDENT.matcher(Files.readString(Path.of("/proc/" + target.servicePid() + "/status")));
    return kilobytes.find() ? Long.parseLong(kilobytes.group(1)) / 1000 : 0;
  }
}
