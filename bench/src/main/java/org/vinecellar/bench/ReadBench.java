package org.vinecellar.bench;

import java.io.BufferedInputStream;
import java.io.InputStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamReader;

/**
 * Core's reader, with results and identities made, against an empty loop of the JDK's tokenizer.
 */
final class ReadBench {
  private static final int ROUNDS = 12;

  private final Path folder;

  ReadBench(Path folder) {
    this.folder = folder;
  }

  List<Bench.Row> run() throws Exception {
    Bench.progress("writing 200 MB of JUnit-style XML");
    Path file = Reports.write(folder.resolve("read.xml"), "org.skerrow", 880_000, 1, true);
    double megabytes = Files.size(file) / 1e6;
    List<Double> ratios = new ArrayList<>();
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int round = 0; round < ROUNDS; round++) {
      double jdk = seconds(() -> emptyLoop(file));
      double core = seconds(() -> CoreReading.of(file, 880_000));
      Bench.progress(
          String.format(Locale.ROOT, "round %d: JDK %.2f s, core %.2f s", round, jdk, core));
      if (round >= 3) {
        ratios.add(jdk / core);
        ours.add(megabytes / core);
        theirs.add(megabytes / jdk);
      }
    }
    double ratio = Bench.median(ratios);
    double heap = peakHeapOfAReadingProcess(file);
    return List.of(
        new Bench.Row(
            String.format(Locale.ROOT, "reading %.0f MB of JUnit XML", megabytes),
            String.format(Locale.ROOT, "%.0f MB/s", Bench.median(ours)),
            String.format(
                Locale.ROOT, "JDK's StAX reader, empty loop: %.0f MB/s", Bench.median(theirs)),
            String.format(Locale.ROOT, "%.2f", ratio),
            "≥ 0.8",
            ratio >= 0.8),
        new Bench.Row(
            "peak heap while reading it",
            String.format(Locale.ROOT, "%.0f MB", heap),
            "a process with -Xmx64m",
            "",
            "< 64 MB",
            heap < 64));
  }

  private interface Work {
    void run() throws Exception;
  }

  private static double seconds(Work work) throws Exception {
    long begun = System.nanoTime();
    work.run();
    return (System.nanoTime() - begun) / 1e9;
  }

  private static void emptyLoop(Path file) throws Exception {
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      XMLStreamReader xml = XMLInputFactory.newDefaultFactory().createXMLStreamReader(in);
      while (xml.hasNext()) {
        xml.next();
      }
    }
  }

  /** In a process of its own that has no more than the bar allows: it ends, or it does not. */
  private static double peakHeapOfAReadingProcess(Path file) throws Exception {
    Process process =
        new ProcessBuilder(
                "java",
                "-Xmx64m",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                ReadBench.class.getName(),
                file.toString())
            .redirectErrorStream(true)
            .start();
    String out =
        new String(process.getInputStream().readAllBytes(), java.nio.charset.StandardCharsets.UTF_8)
            .strip();
    if (process.waitFor() != 0) {
      Bench.progress("reading within 64 MB failed: " + out);
      return Double.POSITIVE_INFINITY;
    }
    return Double.parseDouble(out);
  }

  /** Reads a file and prints the most heap that was in use, garbage included. */
  public static void main(String[] args) {
    CoreReading.of(Path.of(args[0]), 880_000);
    long peak = 0;
    for (MemoryPoolMXBean pool : ManagementFactory.getMemoryPoolMXBeans()) {
      if (pool.getType() == MemoryType.HEAP) {
        peak += pool.getPeakUsage().getUsed();
      }
    }
    System.out.println(peak / 1e6);
  }
}
