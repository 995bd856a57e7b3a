package org.vinecellar.bench;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.WaitUntilState;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.vinecellar.client.command.VineCommand;

/**
 * How long Chromium takes, from the address to what is drawn, for a board of twelve panels and for
 * the same page with none; each in turn, with the scripts in its cache as of somebody who was here
 * before. And what other pages load of the library that draws charts.
 */
final class DrawBench {
  private static final int DAYS = 28;
  private static final int STREAMS = 3;
  private static final int ROUNDS = 40;

  /** A portal that somebody looks at has been looked at before. */
  private static final int TO_WARM_UP = 24;

  private static final List<String> KINDS =
      List.of(
          "outcomes",
          "rate",
          "time",
          "lengths",
          "latest",
          "breakdown",
          "worst",
          "causes",
          "runs",
          "matrix",
          "groups",
          "growth");

  /** All panels are there, nothing waits, and whatever is a chart is drawn. */
  private static final String DRAWN =
      "() => document.querySelectorAll('.board-panel').length === 12"
          + " && !document.querySelector('.skeleton')"
          + " && document.querySelectorAll('.board-panel table').length >= 4"
          + " && [...document.querySelectorAll('svg.chart')]"
          + ".filter(chart => chart.querySelectorAll('g path').length > 0)"
          + ".length === 7";

  private static final String DRAWING = ".*/assets/Chart-[^/]+\\.js";
  private static final String EMPTY = "() => document.body.innerText.includes('No panel yet')";
  private static final ObjectMapper JSON = new ObjectMapper();

  private final Path folder;
  private final Target target;

  DrawBench(Path folder, Target target) {
    this.folder = folder;
    this.target = target;
  }

  List<Bench.Row> run() throws IOException, InterruptedException, SQLException {
    Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    for (int stream = 0; stream < STREAMS; stream++) {
      for (int day = DAYS; day > 0; day--) {
        push("draw/s" + stream, stream * DAYS + day, now.minus(day, ChronoUnit.DAYS));
      }
    }
    double unused = Anew.learnt(target, "^draw/");
    String twelve = board("twelve", KINDS);
    String none = board("none", List.of());
    try (Playwright playwright =
            Playwright.create(
                new Playwright.CreateOptions()
                    .setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
        Browser browser =
            playwright
                .chromium()
                .launch(
                    new BrowserType.LaunchOptions()
                        .setExecutablePath(Path.of("/usr/bin/chromium"))
                        .setArgs(List.of("--no-sandbox", "--disable-gpu")))) {
      Page page = browser.newPage(new Browser.NewPageOptions().setViewportSize(1280, 800));
      signIn(page);
      List<Double> drawn = new ArrayList<>();
      List<Double> empty = new ArrayList<>();
      for (int round = 0; round < ROUNDS; round++) {
        double nothing = took(page, none, EMPTY);
        double all = took(page, twelve, DRAWN);
        if (round >= TO_WARM_UP) {
          empty.add(nothing);
          drawn.add(all);
        }
      }
      return List.of(row(Bench.median(drawn), Bench.median(empty)), without(page));
    }
  }

  private static Bench.Row row(double drawn, double empty) {
    double ratio = drawn / empty;
    return new Bench.Row(
        "a board of 12 panels in Chromium",
        String.format(Locale.ROOT, "%.0f ms", drawn),
        String.format(Locale.ROOT, "the same page without a panel: %.0f ms", empty),
        String.format(Locale.ROOT, "%.2f", ratio),
        "≤ 2",
        ratio <= 2);
  }

  /** Pages without a chart load nothing that draws one. */
  private Bench.Row without(Page page) {
    List<String> loaded = new ArrayList<>();
    page.onRequest(request -> loaded.add(request.url()));
    page.reload();
    page.waitForTimeout(2_000);
    if (loaded.stream().noneMatch(url -> url.matches(DRAWING))) {
      throw new IllegalStateException("a board loads nothing that draws charts: " + loaded);
    }
    loaded.clear();
    for (String path : List.of("today", "runs", "triage", "tests", "boards", "filters")) {
      page.navigate(target.url() + "/bench/" + path);
      page.waitForTimeout(700);
    }
    long charts = loaded.stream().filter(url -> url.matches(DRAWING)).count();
    return new Bench.Row(
        "pages without a chart that load what draws one",
        charts + " of 6",
        "",
        "",
        "0",
        charts == 0);
  }

  private void signIn(Page page) {
    page.navigate(target.url() + "/sign-in");
    page.getByLabel("Name").fill("admin");
    page.getByLabel("Password").fill(target.adminPassword());
    page.keyboard().press("Enter");
    page.waitForURL("**/today");
  }

  private double took(Page page, String board, String until) {
    page.navigate("about:blank");
    long begun = System.nanoTime();
    page.navigate(
        target.url() + "/bench/boards/" + board,
        new Page.NavigateOptions().setWaitUntil(WaitUntilState.COMMIT));
    Object unused = page.waitForFunction(until);
    return (System.nanoTime() - begun) / 1e6;
  }

  private String board(String name, List<String> kinds) throws IOException, InterruptedException {
    ObjectNode board = JSON.createObjectNode().put("name", name);
    ArrayNode panels = board.putArray("panels");
    Map<Integer, Integer> rows = new HashMap<>();
    for (String kind : kinds) {
      int x = panels.size() % 3 * 4;
      ObjectNode panel = panels.addObject();
      panel.put("kind", kind).put("x", x).put("y", rows.getOrDefault(x, 0));
      panel.put("width", 4).put("height", 3).put("days", 30);
      if (List.of("rate", "breakdown", "matrix").contains(kind)) {
        panel.putArray("by").add("stream").add("label.env");
      }
      rows.merge(x, 3, Integer::sum);
    }
    return JSON.readTree(target.answer("boards", board.toString())).path("id").asText();
  }

  private void push(String stream, int seed, Instant at) throws IOException {
    Path file =
        Reports.write(folder.resolve("draw.xml"), "org.draw.s" + seed % STREAMS, 100, seed, false);
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8);
    String[] words = {
      "push",
      file.toString(),
      "--stream",
      stream,
      "--branch",
      "main",
      "--at",
      at.toString(),
      "--label",
      "env=env" + seed % 3
    };
    if (VineCommand.run(words, nowhere, System.err, target.environment()) != 0) {
      throw new IOException("the push failed");
    }
  }
}
