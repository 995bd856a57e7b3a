package org.vinecellar.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import org.vinecellar.bench.figures.Figure;
import org.vinecellar.bench.grouping.GroupingBench;
import org.vinecellar.bench.trust.FlakyBench;
import org.vinecellar.bench.trust.RenameBench;
import org.vinecellar.bench.trust.VerdictsBench;

/**
 * Runs the parts that are asked for ({@code read}, {@code formats}, {@code grouping}, {@code
 * flaky}, {@code verdicts}, {@code triage}, {@code learn}, {@code client}, {@code collect}, {@code
 * live}, {@code load}, {@code ingest}, {@code pages}, {@code draw}, {@code growth}; all by
 * default).
 */
public final class Bench {
  private Bench() {}

  /**
   * Prints a table in Markdown; ends with 0 also when a bar is missed, and says so in the table.
   */
  public static void main(String[] args) throws Exception {
    List<String> wanted =
        args.length == 0
            ? List.of(
                "read",
                "formats",
                "grouping",
                "flaky",
                "verdicts",
                "triage",
                "learn",
                "ingest",
                "client",
                "collect",
                "live",
                "load",
                "pages",
                "draw",
                "growth")
            : List.of(args);
    Path folder = Files.createTempDirectory("vine-bench");
    List<Row> rows = new ArrayList<>();
    try {
      if (wanted.contains("read")) {
        rows.addAll(new ReadBench(folder).run());
      }
      if (wanted.contains("formats")) {
        rows.addAll(new FormatsBench(folder).run());
      }
      if (wanted.contains("grouping")) {
        GroupingBench.figures(folder).forEach(one -> rows.add(row(one)));
      }
      if (wanted.contains("flaky")) {
        FlakyBench.figures().forEach(one -> rows.add(row(one)));
        RenameBench.figures().forEach(one -> rows.add(row(one)));
      }
      if (wanted.contains("verdicts")) {
        new VerdictsBench(folder, Target.fromProperties().environment(), Bench::progress)
            .figures()
            .forEach(one -> rows.add(row(one)));
      }
      if (wanted.contains("triage")) {
        rows.addAll(new TriageBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("learn")) {
        rows.addAll(new LearnBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("client")) {
        rows.addAll(new ClientBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("collect")) {
        rows.addAll(new CollectBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("live")) {
        rows.addAll(new LiveBench(Target.fromProperties()).run());
      }
      if (wanted.contains("load")) {
        rows.addAll(new LoadBench(Target.fromProperties()).run());
        rows.addAll(new BesideBench(Target.fromProperties()).run());
      }
      if (wanted.contains("ingest")) {
        rows.addAll(new IngestBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("pages")) {
        rows.addAll(new PagesBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("draw")) {
        rows.addAll(new DrawBench(folder, Target.fromProperties()).run());
      }
      if (wanted.contains("growth")) {
        rows.addAll(new GrowthBench(folder, Target.other(), Target.fromProperties()).run());
      }
      rows.add(ScriptSize.row());
    } finally {
      try (var files = Files.walk(folder)) {
        files.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
      }
    }
    System.out.println("| what | measured | against | ratio | bar | |");
    System.out.println("|---|---|---|---|---|---|");
    rows.forEach(row -> System.out.println(row.markdown()));
  }

  /**
   * One line of the table.
   *
   * @param bar empty when there is none
   * @param met whether the bar is met
   */
  record Row(String what, String measured, String against, String ratio, String bar, boolean met) {
    String markdown() {
      return String.format(
          "| %s | %s | %s | %s | %s | %s |",
          what, measured, against, ratio, bar, bar.isEmpty() ? "" : met ? "met" : "**missed**");
    }
  }

  private static Row row(Figure one) {
    String measured = String.format(Locale.ROOT, "%.3f", one.measured());
    return new Row(one.what(), measured, "", "", "≥ " + one.bar(), one.measured() >= one.bar());
  }

  /** Tells on standard error how far it is: the table alone goes to standard output. */
  static void progress(String text) {
    System.err.println("bench: " + text);
  }

  static double p95(List<Double> values) {
    List<Double> sorted = values.stream().sorted().toList();
    return sorted.get((int) (sorted.size() * 0.95));
  }

  static double median(List<Double> values) {
    List<Double> sorted = values.stream().sorted().toList();
    return sorted.get(sorted.size() / 2);
  }
}
