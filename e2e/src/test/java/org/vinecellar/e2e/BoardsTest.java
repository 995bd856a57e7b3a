package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Download;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipFile;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Boards as people make them, move them and follow their numbers, and as programs write them. */
@OnSharedPortal
class BoardsTest {
  private static final String BOARDS = "/api/v1/projects/main/boards";

  /** A part of a bar that failed, by its colour. */
  private static final String FAILED = "[data-of='failed'] path";

  private static final String STREAM = "boards/nightly";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private HttpResponse<String> send(String method, String path, String body) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + path))
            .header("Authorization", "Bearer " + portal.token)
            .header("Content-Type", "application/json")
            .method(method, HttpRequest.BodyPublishers.ofString(body))
            .build());
  }

  private void push(int daysAgo, String outcomes) throws IOException {
    push(STREAM, daysAgo, outcomes);
  }

  private void push(String stream, int daysAgo, String outcomes) throws IOException {
    StringBuilder xml = new StringBuilder("<testsuite name='pier'>");
    for (int i = 0; i < outcomes.length(); i++) {
      String inside =
          switch (outcomes.charAt(i)) {
            case 'F' -> "<failure message='no rope'/>";
            case 'E' -> "<error message='no pier'/>";
            case 'S' -> "<skipped/>";
            default -> "";
          };
      xml.append("<testcase classname='org.skerrow.PierTest' name='moors ").append(i);
      xml.append("' time='0.5'>").append(inside).append("</testcase>");
    }
    xml.append("<system-out>").append(stream).append(daysAgo).append("</system-out></testsuite>");
    Files.writeString(work.resolve("r.xml"), xml);
    Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(daysAgo, ChronoUnit.DAYS);
    List<String> words = new ArrayList<>(List.of(Shell.ROOT + "/vine", "push", "r.xml"));
    words.addAll(List.of("--stream", stream, "--at", at.toString(), "--branch", "main"));
    words.addAll(List.of("--label", "team=" + (daysAgo % 2 == 0 ? "fares" : "moorings")));
    assertThat(
            Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), words)
                .code())
        .isZero();
  }

  @Test
  void aBoardIsMadeMovedAndFollowed() throws IOException {
    push(5, "PPPPPPFE");
    push(4, "PPPPFFFS");
    push(2, "PPPPPPPP");
    push(1, "PPPPPFFE");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/boards");
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("One stream")).click();
      page.getByLabel("Stream").selectOption(STREAM);
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Make it")).click();
      assertThat(page.getByRole(AriaRole.HEADING, heading(STREAM))).isVisible();
      Browsing.isAccessible(page);
      String board = page.url();
      everyNumberLeadsToAsMany(page, board);
      theChartIsFollowed(page, board);
      theBoardIsSwitched(page, board);
      panelsAreTakenAlong(page, board);
      theBoardIsPrintedAndHung(page, board);
      panelsAreMovedByKeys(page, board);
      browsing.noErrors();
    }
  }

  /** Each number of a table and each mark of a chart, of every kind, leads to as many. */
  @Test
  void everyMarkOfEveryKindIsFollowed() throws IOException {
    push("boards/kinds", 4, "PPF");
    push("boards/kinds", 3, "PPFF");
    push("boards/kinds", 2, "PEPF");
    push("boards/kinds", 1, "PPP");
    String board = everyKind();
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, board);
      Locator groups = panel(page, "The groups").locator("tbody tr");
      assertThat(groups.first()).isVisible();
      String group = groups.first().locator("a").first().getAttribute("href");
      HttpResponse<String> said =
          send(
              "POST",
              "/api/v1/projects/main/groups/"
                  + group.replaceAll(".*group=(\\d+).*", "$1")
                  + "/decision",
              "{\"category\": \"Product fault\"}");
      assertThat(said.statusCode()).as(said.body()).isEqualTo(200);
      page.reload();
      for (String chart : CHARTS) {
        everyMarkIsFollowed(page, "The " + chart);
      }
      everyCellIsFollowed(page);
      browsing.noErrors();
    }
  }

  private static final List<String> CHARTS =
      List.of(
          "outcomes",
          "rate",
          "time",
          "lengths",
          "lost",
          "growth",
          "causes",
          "explaining",
          "mending",
          "runs");

  private static final List<String> TABLES =
      List.of("latest", "breakdown", "worst", "matrix", "flaky", "slowest", "slowing", "groups");

  /** A board of a panel of each kind, where it is. */
  private String everyKind() {
    StringBuilder panels = new StringBuilder();
    String of = "\"filter\": \"stream eq \\\"boards/kinds\\\"\", \"days\": 6, \"height\": 2";
    int y = 0;
    for (String kind : Stream.concat(CHARTS.stream(), TABLES.stream()).toList()) {
      panels.append(y == 0 ? "" : ", ").append("{\"kind\": \"").append(kind).append("\", ");
      panels.append(of).append(", \"by\": [\"stream\", \"label.team\"], \"y\": ").append(y);
      panels.append(", \"title\": \"The ").append(kind).append("\"}");
      y += 2;
    }
    HttpResponse<String> made =
        send("POST", BOARDS, "{\"name\": \"Every kind\", \"panels\": [" + panels + "]}");
    assertThat(made.statusCode()).as(made.body()).isEqualTo(200);
    return "/main/boards/" + Portal.json(made.body()).path("id").asText();
  }

  /** Where the keys get to what is not nothing, one after the other. */
  private static void everyMarkIsFollowed(Page page, String title) {
    Locator chart = page.getByLabel(Pattern.compile("^" + title + ", chart"));
    Map<List<Integer>, String> marks = new LinkedHashMap<>();
    for (int column = 0; column < 6; column++) {
      String told = toldAt(page, title, chart, 0, column);
      for (int row = 0; row < 7; row++) {
        if (told.matches(".*: (?!0 –|0 ms –).* – Enter opens it") && !marks.containsValue(told)) {
          marks.put(List.of(row, column), told);
        }
        page.keyboard().press("ArrowLeft");
        told = panel(page, title).getByRole(AriaRole.STATUS).innerText();
      }
    }
    assertThat(marks).as(title).isNotEmpty();
    assertThat(
            title.equals("The growth") && marks.keySet().stream().noneMatch(at -> at.get(1) == 1))
        .as("tests that are gone")
        .isFalse();
    marks.forEach(
        (at, told) -> {
          assertThat(toldAt(page, title, chart, at.get(0), at.get(1))).isEqualTo(told);
          page.keyboard().press("Enter");
          Matcher count = Pattern.compile(": (\\d+) – ").matcher(told);
          assertThat(page.getByRole(AriaRole.STATUS).first())
              .hasText(
                  Pattern.compile(
                      count.find()
                          ? "^" + count.group(1) + " (result|run|test)s?$"
                          : "^[1-9]\\d* (result|run|group)s?\\b.*"));
          page.goBack();
          assertThat(chart).isVisible();
        });
  }

  /** What is said of the one so far from the end, and so far down. */
  private static String toldAt(Page page, String title, Locator chart, int row, int column) {
    chart.focus();
    for (int i = 0; i < 7; i++) {
      page.keyboard().press("ArrowRight");
      page.keyboard().press("ArrowUp");
    }
    for (int i = 0; i < row; i++) {
      page.keyboard().press("ArrowLeft");
    }
    for (int i = 0; i < column; i++) {
      page.keyboard().press("ArrowDown");
    }
    return panel(page, title).getByRole(AriaRole.STATUS).innerText();
  }

  private void everyCellIsFollowed(Page page) {
    page.getByRole(
            AriaRole.BUTTON, new Page.GetByRoleOptions().setName(Pattern.compile(" in numbers$")))
        .all()
        .forEach(Locator::click);
    assertThat(panel(page, "The runs").locator("table")).isVisible();
    assertThat(panel(page, "The matrix").locator("tbody tr")).hasCount(1);
    Browsing.isAccessible(page);
    Map<String, String> links = new LinkedHashMap<>();
    for (String table : TABLES) {
      for (Locator link : panel(page, "The " + table).locator("a").all()) {
        links.put(String.valueOf(link.getAttribute("href")), link.innerText());
      }
    }
    assertThat(links).hasSizeGreaterThan(20);
    int groups = 0;
    for (Map.Entry<String, String> link : links.entrySet()) {
      if (link.getKey().contains("/triage")) {
        page.navigate(portal.url + link.getKey());
        assertThat(
                page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setLevel(2)).first())
            .containsText(link.getValue().substring(1));
        groups++;
      } else if (link.getValue().matches("[1-9][0-9,]*")) {
        page.navigate(portal.url + link.getKey());
        assertThat(page.getByRole(AriaRole.STATUS).first())
            .hasText(Pattern.compile("^" + link.getValue() + " (result|run)s?$"));
      }
    }
    assertThat(groups).isPositive();
  }

  private static Page.GetByRoleOptions heading(String name) {
    return new Page.GetByRoleOptions().setName(name).setExact(true);
  }

  /** In numbers each panel tells what its chart draws. */
  private void everyNumberLeadsToAsMany(Page page, String board) {
    assertThat(panel(page, "Results").locator(FAILED).first()).isVisible();
    List<Locator> asNumbers =
        page.getByRole(
                AriaRole.BUTTON,
                new Page.GetByRoleOptions().setName(Pattern.compile(" in numbers$")))
            .all();
    assertThat(asNumbers).hasSizeGreaterThan(3);
    asNumbers.forEach(Locator::click);
    assertThat(panel(page, "Results").locator("table")).isVisible();
    Map<String, String> links = new LinkedHashMap<>();
    for (Locator link : page.locator(".board-panel a").all()) {
      links.put(String.valueOf(link.getAttribute("href")), link.innerText());
    }
    assertThat(links).hasSizeGreaterThan(25);
    links.forEach(
        (href, number) -> {
          // Of the many that are nothing, the store's test follows each.
          if (number.matches("[1-9][0-9,]*")) {
            page.navigate(portal.url + href);
            assertThat(page.getByRole(AriaRole.STATUS).first())
                .hasText(Pattern.compile("^" + number + " (result|run|test)s?$"));
          }
        });
    page.navigate(board);
  }

  /** By the pointer, and by the keys. */
  private static void theChartIsFollowed(Page page, String board) {
    Locator chart = page.getByLabel(Pattern.compile("^Results, chart"));
    assertThat(chart.locator(FAILED).first()).isVisible();
    chart.focus();
    page.keyboard().press("ArrowLeft");
    page.keyboard().press("ArrowLeft");
    Locator told = panel(page, "Results").getByRole(AriaRole.STATUS);
    for (int i = 0; i < 5 && !told.innerText().contains("Failed"); i++) {
      page.keyboard().press("ArrowDown");
    }
    Matcher failed = Pattern.compile("Failed: (\\d+) – Enter").matcher(told.innerText());
    assertThat(failed.find()).as(told.innerText()).isTrue();
    page.keyboard().press("Enter");
    assertThat(page.getByRole(AriaRole.STATUS).first()).hasText(failed.group(1) + " results");
    page.navigate(board);
    // What failed stands on the axis: the second bar is hit in its middle.
    Locator bars = panel(page, "Results").locator(FAILED);
    assertThat(bars.first()).isVisible();
    Matcher bar =
        Pattern.compile("M([\\d.]+) ([\\d.]+)h([\\d.]+)v([\\d.]+)")
            .matcher(bars.first().getAttribute("d"));
    for (int i = 0; i < 2; i++) {
      assertThat(bar.find()).isTrue();
    }
    chart.click(new Locator.ClickOptions().setPosition(middle(bar, 1, 3), middle(bar, 2, 4)));
    assertThat(page.getByRole(AriaRole.STATUS).first()).hasText("3 results");
    page.navigate(board);
  }

  /** By a label that stands in its address, to what it was, and to a line less. */
  private static void theBoardIsSwitched(Page page, String board) {
    Locator failed = panel(page, "Results").locator(FAILED).first();
    assertThat(failed).hasAttribute("d", Pattern.compile("^(M[^M]+){3}$"));
    page.navigate(board + "?filter=label.team+eq+%22fares%22");
    assertThat(failed).hasAttribute("d", Pattern.compile("^M[^M]+$"));
    page.getByLabel("Runs of team").selectOption("");
    assertThat(failed).hasAttribute("d", Pattern.compile("^(M[^M]+){3}$"));
    Locator legend = panel(page, "Results").getByText("Failed", exactly());
    legend.click();
    assertThat(failed).not().isVisible();
    legend.click();
    assertThat(failed).isVisible();
    page.navigate(board);
  }

  private static Locator.GetByTextOptions exactly() {
    return new Locator.GetByTextOptions().setExact(true);
  }

  private static double middle(Matcher bar, int from, int length) {
    return Double.parseDouble(bar.group(from)) + Double.parseDouble(bar.group(length)) / 2;
  }

  /** On paper, on a wall beside another board, and once more to be changed. */
  private void theBoardIsPrintedAndHung(Page page, String board) throws IOException {
    String pdf =
        new String(
            page.pdf(new Page.PdfOptions().setPreferCSSPageSize(true).setPrintBackground(true)),
            StandardCharsets.ISO_8859_1);
    assertThat(pdf).startsWith("%PDF-");
    assertThat(pdf.split("/Type /Page\\b(?!s)", -1)).hasSizeBetween(3, 6);

    send("POST", BOARDS, "{\"name\": \"On the other wall\", \"panels\": []}");
    page.reload();
    Locator menu = page.getByLabel("More of the board");
    menu.click();
    page.getByText("On a wall").click();
    Locator dialog = page.getByRole(AriaRole.DIALOG);
    dialog.getByLabel("On the other wall").check();
    dialog.getByLabel("seconds each").fill("5");
    Browsing.isAccessible(page);
    dialog.getByText("Show").click();
    assertThat(panel(page, "Results").locator(FAILED).first()).isVisible();
    assertThat(page.getByRole(AriaRole.HEADING, heading("On the other wall"))).isVisible();
    assertThat(page.getByRole(AriaRole.HEADING, heading(STREAM))).isVisible();
    page.keyboard().press("Escape");
    assertThat(page.getByText("all boards")).isVisible();

    page.navigate(board);
    menu.click();
    Download file = page.waitForDownload(() -> page.getByText("Take along (JSON)").click());
    JsonNode taken = Portal.json(Files.readString(file.path()));
    assertThat(taken.path("panels")).hasSize(8);
    menu.click();
    page.getByText("Duplicate").click();
    assertThat(page.getByText("Keep it")).isVisible();
    assertThat(page.getByText(STREAM + " (copy)").first()).isAttached();
    page.navigate(board);
  }

  private void panelsAreTakenAlong(Page page, String board) throws IOException {
    page.getByLabel("Results to take along").click();
    Download picture = page.waitForDownload(() -> page.getByText("Picture (PNG)").first().click());
    assertThat(picture.suggestedFilename()).isEqualTo("Results.png");
    BufferedImage drawn = ImageIO.read(picture.path().toFile());
    assertThat(drawn.getWidth()).isEqualTo(2 * drawn.getHeight());

    String panels = board.replaceAll(".*(/boards/\\d+).*", "/api/v1/projects/main$1/panels/");
    String csv = portal.send("GET", panels + "2/table.csv?days=6", portal.token).body();
    String head = "at,passed,skipped,not reached,failed,errored,runs";
    assertThat(csv.lines().toList()).hasSize(7).startsWith(head).contains(day(5) + ",6,0,0,1,1,1");
    assertThat(csv).as("no run").contains(day(3) + ",,,,,,");
    String words = portal.send("GET", panels + "7/table.md", portal.token).body();
    assertThat(words).startsWith("| test | stream | by chance |").contains("| boards/nightly |");
    assertThat(sheetOf(panels + "2/table.xlsx?days=6")).contains("<v>6</v>").contains("failed");
    for (String missing : List.of("99/table.csv", "0/table.csv", "1/table.exe", "1/tablecsv")) {
      assertThat(portal.send("GET", panels + missing, portal.token).statusCode())
          .as(missing)
          .isEqualTo(404);
    }
  }

  private static String day(int ago) {
    return LocalDate.now(ZoneOffset.UTC).minusDays(ago) + "T00:00:00Z";
  }

  /** The first page of a spreadsheet with its words, as XML. */
  private String sheetOf(String path) throws IOException {
    HttpResponse<byte[]> answer = bytes(path);
    assertThat(answer.headers().firstValue("Content-Disposition"))
        .contains("attachment; filename=\"Results.xlsx\"");
    StringBuilder text = new StringBuilder();
    Path file = Files.write(work.resolve("results.xlsx"), answer.body());
    try (ZipFile zip = new ZipFile(file.toFile())) {
      for (String name : List.of("xl/worksheets/sheet1.xml", "xl/sharedStrings.xml")) {
        text.append(
            new String(
                zip.getInputStream(zip.getEntry(name)).readAllBytes(), StandardCharsets.UTF_8));
      }
    }
    return text.toString();
  }

  private HttpResponse<byte[]> bytes(String path) throws IOException {
    try {
      return HttpClient.newHttpClient()
          .send(
              HttpRequest.newBuilder(URI.create(portal.url + path))
                  .header("Authorization", "Bearer " + portal.token)
                  .build(),
              HttpResponse.BodyHandlers.ofByteArray());
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  private void panelsAreMovedByKeys(Page page, String board) {
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Edit")).click();
    Locator latest =
        page.getByRole(
            AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Latest run").setExact(true));
    latest.focus();
    page.keyboard().press("ArrowDown");
    page.keyboard().press("Shift+ArrowRight");
    page.getByLabel("Name").fill("The pier");
    page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Keep it")).click();
    assertThat(page.getByRole(AriaRole.HEADING, heading("The pier"))).isVisible();
    JsonNode kept = portal.get(BOARDS + "/" + board.replaceAll(".*/boards/(\\d+).*", "$1"));
    assertThat(kept.path("version").asInt()).isEqualTo(2);
    JsonNode first = kept.path("panels").get(0);
    assertThat(first.path("title").asText()).isEqualTo("Latest run");
    assertThat(first.path("y").asInt()).isEqualTo(1);
    assertThat(first.path("width").asInt()).isEqualTo(5);
    assertThat(kept.path("panels").get(1).path("y").asInt()).as("out of its way").isEqualTo(5);
  }

  private static Locator panel(Page page, String title) {
    return page.getByRole(AriaRole.REGION, heading(title));
  }

  @Test
  void whatIsReadCanBeWrittenAndNobodyIsOverwritten() {
    HttpResponse<String> made =
        send("POST", BOARDS + "/ready", "{\"ready\":\"release\",\"name\":\"Out it goes\"}");
    assertThat(made.statusCode()).as(made.body()).isEqualTo(200);
    JsonNode board = Portal.json(made.body());
    String one = BOARDS + "/" + board.path("id").asLong();
    String copy = "{\"name\":\"Out it goes too\",\"panels\":" + board.path("panels") + "}";
    JsonNode copied = Portal.json(send("POST", BOARDS, copy).body());
    assertThat(copied.path("panels")).isEqualTo(board.path("panels"));
    assertThat(send("POST", BOARDS, copy).statusCode()).as("the name is taken").isEqualTo(409);
    String change = "{\"version\":1,\"board\":{\"name\":\"Out\",\"panels\":[]}}";
    assertThat(send("PUT", one, change).statusCode()).isEqualTo(200);
    HttpResponse<String> late = send("PUT", one, change);
    assertThat(late.statusCode()).isEqualTo(412);
    assertThat(late.body()).contains("changed the board meanwhile");
    assertThat(send("PUT", one, "{\"board\":{\"name\":\"x\"}}").statusCode()).isEqualTo(428);
    assertThat(send("DELETE", one, "").statusCode()).isEqualTo(204);
    assertThat(send("DELETE", one, "").statusCode()).isEqualTo(404);
    assertThat(send("GET", one, "").statusCode()).isEqualTo(404);
  }

  /**
   * Numbers lead to lists by filters that are longer and deeper than the one that was asked with.
   */
  @Test
  void aFilterThatLeadsNowhereIsRefused() {
    String many = String.join(" or ", Collections.nCopies(140, "branch eq \"somewhere\""));
    String deep = "not (".repeat(29) + "branch pr" + ")".repeat(29);
    for (String filter : List.of(many, deep)) {
      String body =
          "{\"panel\":{\"kind\":\"rate\",\"filter\":\"" + filter.replace("\"", "\\\"") + "\"}}";
      HttpResponse<String> answer = send("POST", BOARDS + "/sheet", body);
      assertThat(answer.statusCode()).as(answer.body()).isEqualTo(400);
      assertThat(answer.body()).contains("has to be shorter or less deep");
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{} | a board needs a name",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"pie\"}]} | kind is “pie”; it can be outcomes, rate,",
        "{\"name\":\"n\",\"panels\":[null]} | say a panel, as JSON",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"filter\":\"team eq 3\"}]} | panel 1: filter, position 1",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"x\":8}]} | panel 1 does not lie on the grid",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"width\":2147483647}]} | does not lie on the grid",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\"},{\"kind\":\"time\",\"x\":5}]} | panel 2 lies on panel 1",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"days\":0}]} | panel 1: days is 0",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"days\":7000,\"step\":\"hour\"}]} | take longer steps",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"by\":[\"team\"]}]} | are told apart by “stream”",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"breakdown\",\"minimum\":98}]} | minimum is 98.0",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"step\":\"month\"}]} | step is “month”",
        "{\"name\":\"n\",\"panels\":[{\"kind\":\"rate\",\"project\":\"a\\u0000\"}]} | panel 1: a project is named by",
      })
  void whatIsNotRightIsRefused(String body, String said) {
    HttpResponse<String> answer = send("POST", BOARDS, body);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(400);
    assertThat(Portal.json(answer.body()).path("detail").asText()).contains(said);
  }
}
