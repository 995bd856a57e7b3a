package org.vinecellar.bench;

import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.client.command.VineCommand;

/** The calls that open the page of a run, for a run of 50 000 results and for one of 500. */
final class PagesBench {
  private static final int CALLS = 400;

  private final Path folder;
  private final Target target;

  PagesBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    Bench.progress("making a run of 500 and one of 50 000");
    for (int round = 0; round < 2; round++) {
      push("pages/small", 500, round);
      push("pages/large", 50_000, round);
    }
    long small = runId("pages/small");
    long large = runId("pages/large");
    String[][] calls = {
      {"the run's head", ""},
      {"its parts", "/parts"},
      {"first page of results", "/results?limit=100"},
      {"failed ones only", "/results?limit=100&filter=outcome+eq+%22failed%22"},
      {"outermost suites", "/suites"},
      {"one result", "/results/1-0"},
    };
    List<Bench.Row> rows = new ArrayList<>();
    for (String[] call : calls) {
      rows.add(compare(call[0], call[1], small, large, true));
    }
    rows.add(
        compare(
            "text filter (beyond the bar)",
            "/results?limit=100&filter=text+co+%22Route42%22",
            small,
            large,
            false));
    return rows;
  }

  private Bench.Row compare(String what, String path, long small, long large, boolean barred)
      throws IOException, InterruptedException {
    List<Double> few = new ArrayList<>();
    List<Double> many = new ArrayList<>();
    int calls = barred ? CALLS : CALLS / 4;
    for (int i = 0; i < calls; i++) {
      double a = milliseconds("runs/" + small + path);
      double b = milliseconds("runs/" + large + path);
      if (i >= calls / 4) {
        few.add(a);
        many.add(b);
      }
    }
    double ratio = Bench.p95(many) / Bench.p95(few);
    return new Bench.Row(
        "Run page, " + what,
        String.format(Locale.ROOT, "50 000 results: p95 %.1f ms", Bench.p95(many)),
        String.format(Locale.ROOT, "500 results: p95 %.1f ms", Bench.p95(few)),
        String.format(Locale.ROOT, "%.2f", ratio),
        barred ? "< 2" : "",
        !barred || ratio < 2);
  }

  private double milliseconds(String path) throws IOException, InterruptedException {
    long begun = System.nanoTime();
    target.get(path);
    return (System.nanoTime() - begun) / 1e6;
  }

  private long runId(String stream) throws IOException, InterruptedException {
    Matcher id =
        Pattern.compile("\"id\":(\\d+)").matcher(target.get("runs?limit=1&stream=" + stream));
    if (!id.find()) {
      throw new IOException("there is no run of " + stream);
    }
    return Long.parseLong(id.group(1));
  }

  private void push(String stream, int tests, int seed) throws IOException {
    Path file =
        Reports.write(
            folder.resolve("page.xml"), "org." + stream.replace('/', '.'), tests, seed, false);
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {"push", file.toString(), "--stream", stream};
    if (VineCommand.run(words, nowhere, System.err, target.environment()) != 0) {
      throw new IOException("the push failed");
    }
  }
}
