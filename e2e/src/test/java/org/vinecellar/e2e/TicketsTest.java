package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.IOException;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.vinecellar.standins.tracker.LogEntry;
import org.vinecellar.standins.tracker.Mood;
import org.vinecellar.standins.tracker.TrackerStandIn;

/** Failure groups and a tracker that may be away, hang, talk nonsense, forget or lose things. */
@OnSharedPortal
class TicketsTest {
  private static final AtomicInteger NUMBER = new AtomicInteger();
  private static final String STREAM = "quay/nightly";
  private static final Duration PATIENCE = Duration.ofSeconds(60);

  private final Portal portal = Portal.shared();
  private final TrackerStandIn tracker = Portal.TRACKER;
  private final People people = new People(portal);
  private final String project = "tickets-" + NUMBER.incrementAndGet();
  private @TempDir Path work;
  private People.SignedIn admin;
  private Map<String, String> env;

  @BeforeEach
  void freshProject() throws IOException {
    tracker.mood(Mood.WELL);
    admin = people.signIn(portal.user, portal.password);
    assertThat(call("POST", "/projects", "{\"key\":\"" + project + "\",\"name\":\"T\"}"))
        .isEqualTo(201);
    String token =
        Portal.json(
                people
                    .call(
                        admin,
                        "POST",
                        "/projects/" + project + "/tokens",
                        "{\"name\":\"ci\",\"scopes\":[\"read\",\"send\",\"edit\"]}")
                    .body())
            .path("secret")
            .asText();
    env = Map.of("VINE_URL", portal.url, "VINE_TOKEN", token);
    night(1);
    assertThat(call("PUT", in("/tracker"), kept(0, settings(tracker.url())))).isEqualTo(200);
  }

  @AfterEach
  void wellAgain() {
    tracker.mood(Mood.WELL);
  }

  private String in(String path) {
    return "/projects/" + project + path;
  }

  private int call(String method, String path, String body) {
    return people.call(admin, method, path, body).statusCode();
  }

  private JsonNode said(String method, String path, String body) {
    HttpResponse<String> answer = people.call(admin, method, path, body);
    return Portal.json(answer.body());
  }

  private static String kept(int version, ObjectNode settings) {
    ObjectNode body = Portal.JSON.createObjectNode();
    body.put("version", version).put("secret", TrackerStandIn.SECRET).set("settings", settings);
    return body.toString();
  }

  private static ObjectNode settings(String url) {
    ObjectNode settings =
        Portal.JSON
            .createObjectNode()
            .put("name", "Harbour log")
            .put("find", url + "/api/entries?words={text}&most={most}")
            .put("read", url + "/api/entries/{key}")
            .put("page", url + "/look/{key}")
            .put("create", url + "/api/entries")
            .put("createBody", "{\"title\": \"{title}\", \"text\": \"{text}\"}")
            .put("comment", url + "/api/entries/{key}/said")
            .put("commentBody", "{\"text\": \"{text}\"}")
            .put("header", "Authorization: Bearer {secret}")
            .put("listAt", "/entries")
            .put("entryAt", "/entry")
            .put("keyAt", "/key")
            .put("titleAt", "/title")
            .put("textAt", "/text")
            .put("stateAt", "/state")
            .put("closedAtAt", "/closedAt");
    settings.putArray("closed").add("done").add("dropped");
    return settings;
  }

  private void night(int night) throws IOException {
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='QuayTest' timestamp='2026-10-0"
            + night
            + "T03:00:00Z'><testcase classname='QuayTest' name='boards'><error"
            + " type='java.io.IOException' message='tide gauge "
            + night
            + " is dry'>java.io.IOException: tide gauge "
            + night
            + " is dry\n\tat org.skerrow.TideGauge.levelOf(TideGauge.java:9)</error></testcase>"
            + "</testsuite>");
    Shell.Result sent = vine("push", "r.xml", "--stream", STREAM, "--run", "run-" + night);
    assertThat(sent.code()).as(sent.err()).isZero();
  }

  private Shell.Result vine(String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    command.addAll(List.of(words));
    return Shell.run(work, env, command);
  }

  private JsonNode exported() {
    return Portal.json(
        vine("export", "failures", "--stream", STREAM).out().lines().findFirst().orElseThrow());
  }

  private long group() {
    return exported().path("group").asLong();
  }

  private JsonNode tickets() {
    return said("GET", in("/groups/" + group() + "/tickets"), null);
  }

  private JsonNode ticket() {
    assertThat(tickets()).hasSize(1);
    return tickets().get(0);
  }

  private void ask() {
    long group = group();
    String path = "/groups/" + group + "/tickets/" + ticket().path("ticket").asLong() + "/asked";
    assertThat(call("POST", in(path), null)).isEqualTo(200);
  }

  private LogEntry entry(String key) {
    return tracker.entries().stream()
        .filter(one -> one.key().equals(key))
        .findFirst()
        .orElseThrow();
  }

  private static void until(java.util.function.BooleanSupplier holds) throws InterruptedException {
    long end = System.nanoTime() + PATIENCE.toNanos();
    while (!holds.getAsBoolean()) {
      assertThat(System.nanoTime()).as("it does not become so").isLessThan(end);
      Thread.sleep(100);
    }
  }

  /** Half of it would be a decision without its ticket, or a ticket without its decision. */
  @Test
  void aDecisionWithATicketIsMadeWholeOrNotAtAll() {
    String entry = tracker.make("Tide gauge runs dry", "");
    Shell.Result noEntry = decided("Product fault", "LOG-0");
    assertThat(noEntry.code()).isNotZero();
    assertThat(noEntry.err()).contains("LOG-0");
    assertThat(exported().path("category").isNull()).isTrue();
    Shell.Result noCategory = decided("Weather", entry);
    assertThat(noCategory.code()).isNotZero();
    assertThat(noCategory.err()).contains("there is no category “Weather”");
    assertThat(tickets()).isEmpty();
    assertThat(decided("Product fault", entry).code()).isZero();
    assertThat(exported().path("category").asText()).isEqualTo("Product fault");
    assertThat(exported().path("ticket").asText()).isEqualTo(entry);
  }

  private Shell.Result decided(String category, String entry) {
    return vine(
        "triage",
        "decide",
        STREAM + "#1",
        "--test",
        "QuayTest#boards",
        "--category",
        category,
        "--ticket",
        entry);
  }

  @Test
  void aTicketIsFoundLinkedAndFollowed() throws Exception {
    String other = tracker.make("Printer is out of paper", "");
    String like = tracker.make("Tide gauge runs dry", "TideGauge.levelOf throws an IOException");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/" + project + "/triage?days=0");
      Locator section =
          page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Tickets"));
      assertThat(section.getByText("none yet")).isVisible();
      page.keyboard().press("l");
      assertThat(section.getByText("Tide gauge runs dry")).isVisible();
      assertThat(section.getByText("Printer")).hasCount(0);
      Browsing.isAccessible(page);
      button(section, "Link " + like).click();
      assertThat(section.getByText("linked", new Locator.GetByTextOptions().setExact(true)))
          .isVisible();
      assertThat(section.getByRole(AriaRole.LINK).getByText("to do")).isVisible();
      assertThat(exported().path("ticket").asText()).isEqualTo(like);
      until(() -> !entry(like).said().isEmpty());
      assertThat(entry(like).said())
          .singleElement()
          .asString()
          .contains("/" + project + "/triage?group=" + group(), "quay/nightly");
      assertThat(entry(other).said()).isEmpty();

      // Explained until it is closed; what fails after that asks again.
      page.keyboard().press("Escape");
      page.getByLabel("until its tickets are closed").check();
      button(page.locator("body"), "1 Product fault").click();
      assertThat(page.getByText("until its tickets are closed").first()).isVisible();
      assertThat(exported().path("category").asText()).isEqualTo("Product fault");
      tracker.stand(like, "done");
      button(section, "Ask how " + like + " stands").click();
      assertThat(page.getByText("over, its tickets were closed").first()).isVisible();

      // A hurried one writes a new one; it is told where it is needed, and nowhere twice.
      button(section, "New one").click();
      assertThat(section.getByLabel("Title")).hasValue("tide gauge … is dry");
      section.getByLabel("Title").fill("Gauge dry again");
      button(section, "Make it, and link it").click();
      assertThat(section.getByText("Gauge dry again")).isVisible();
      Browsing.isAccessible(page);
      List<LogEntry> made =
          tracker.entries().stream().filter(one -> one.title().equals("Gauge dry again")).toList();
      assertThat(made).hasSize(1);
      assertThat(made.get(0).text()).contains("TideGauge.levelOf", "Reference: vine-");
      assertThat(exported().path("ticket").asText()).isEqualTo(like + "," + made.get(0).key());
      button(section, "Take " + like + " away").click();
      assertThat(section.getByText("Tide gauge runs dry")).hasCount(0);
      browsing.noErrors();
    }
  }

  private static Locator button(Locator within, String name) {
    return within.getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName(name));
  }

  @Test
  void aLinkWaitsForATrackerThatIsAwayAndALostOneIsTold() throws Exception {
    String key = tracker.make("Tide gauge", "");
    tracker.mood(Mood.DOWN);
    String page = tracker.url() + "/look/" + key;
    assertThat(call("POST", in("/groups/" + group() + "/tickets"), "{\"key\":\"" + page + "\"}"))
        .isEqualTo(200);
    assertThat(ticket().path("key").asText()).isEqualTo(key);
    assertThat(ticket().path("open").isNull()).as("nobody knows").isTrue();
    until(() -> ticket().path("trouble").asText().contains("503"));
    assertThat(said("GET", in("/tracker"), null).path("trouble").asText()).contains("503");
    tracker.mood(Mood.WELL);
    until(() -> ticket().path("state").asText().equals("to do"));
    assertThat(said("GET", in("/tracker"), null).path("trouble").isNull()).isTrue();
    until(() -> entry(key).said().size() == 1);

    assertThat(call("POST", in("/groups/" + group() + "/tickets"), "{\"key\":\"LOG-none\"}"))
        .as("what the tracker does not know is not linked")
        .isEqualTo(404);
    tracker.lose(key);
    ask();
    assertThat(ticket().path("mismatch").asText()).isEqualTo("lost");
    JsonNode desk = said("GET", in("/groups?show=tickets"), null);
    assertThat(desk.path("groups")).hasSize(1);
  }

  /** Who refuses once is not asked for the same again and again. */
  @Test
  void whatIsRefusedIsToldAndNotRepeated() throws Exception {
    String key = tracker.make("Tide gauge of " + project, "");
    tracker.mood(Mood.CLOSED_BOOK);
    assertThat(call("POST", in("/groups/" + group() + "/tickets"), "{\"key\":\"" + key + "\"}"))
        .isEqualTo(200);
    until(() -> ticket().path("trouble").asText().contains("does not let us in (403)"));
    assertThat(ticket().path("state").asText()).isEqualTo("to do");
    tracker.mood(Mood.WELL);
    ask();
    assertThat(ticket().path("trouble").isNull()).isTrue();
    assertThat(tracker.calls())
        .filteredOn(("POST /api/entries/" + key + "/said")::equals)
        .hasSize(1);
  }

  @Test
  void anEntryIsMadeOnceThoughTheAnswerIsLost() throws Exception {
    tracker.mood(Mood.FORGETFUL);
    String title = "Dry gauge of " + project;
    String body = "{\"title\":\"" + title + "\",\"text\":\"it is \\\"dry\\\" {key} {title}\"}";
    assertThat(call("POST", in("/groups/" + group() + "/tickets"), body)).isEqualTo(200);
    assertThat(ticket().path("key").isNull()).isTrue();
    tracker.mood(Mood.WELL);
    until(() -> !ticket().path("key").isNull());
    List<LogEntry> made =
        tracker.entries().stream().filter(one -> one.title().equals(title)).toList();
    assertThat(made).extracting(LogEntry::key).containsExactly(ticket().path("key").asText());
    assertThat(made.get(0).text()).startsWith("it is \"dry\" {key} {title}");
  }

  @ParameterizedTest
  @EnumSource(
      value = Mood.class,
      names = {"HANGING", "BABBLING", "RAMBLING", "ENDLESS", "ELSEWHERE"})
  void aTrackerThatMisbehavesIsToldAndHoldsNobodyUp(Mood mood) throws Exception {
    tracker.mood(mood);
    long group = group();
    int before = tracker.calls().size();
    ExecutorService threads = Executors.newFixedThreadPool(20);
    try {
      List<Future<HttpResponse<String>>> all = new ArrayList<>();
      for (int i = 0; i < 20; i++) {
        all.add(
            threads.submit(
                () ->
                    people.call(
                        admin, "GET", in("/groups/" + group + "/tickets/alike?text=gauge"), null)));
      }
      // Meanwhile, the portal is there for all else.
      assertThat(call("GET", in("/groups/" + group), null)).isEqualTo(200);
      for (Future<HttpResponse<String>> one : all) {
        HttpResponse<String> answer = one.get();
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(503);
        assertThat(Portal.json(answer.body()).path("type").asText()).endsWith("tracker-trouble");
      }
      if (mood == Mood.HANGING) {
        // Most of the portal's threads are left: only so many wait for it at a time.
        assertThat(tracker.calls().size() - before).isLessThanOrEqualTo(6);
      }
    } finally {
      threads.shutdownNow();
    }
    assertThat(call("POST", in("/groups/" + group + "/tickets"), "{\"key\":\"LOG-1\"}"))
        .isEqualTo(200);
    assertThat(ticket().path("open").isNull()).isTrue();
  }

  /** Each number of a board's tickets, and of what people did, leads to as many. */
  @Test
  void boardsTellOfTicketsAndPeople() throws IOException {
    night(2);
    long group = group();
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='PierTest' timestamp='2026-10-03T03:00:00Z'><testcase name='moors'>"
            + "<failure type='NoRope' message='no rope at the pier'/></testcase></testsuite>");
    assertThat(vine("push", "r.xml", "--stream", STREAM, "--run", "run-3").code()).isZero();
    List<Long> groups =
        vine("export", "failures", "--stream", STREAM)
            .out()
            .lines()
            .map(line -> Portal.json(line).path("group").asLong())
            .distinct()
            .toList();
    assertThat(groups).hasSize(2).contains(group);
    String name = "{\"to\":\"" + portal.user + "\"}";
    for (long one : groups) {
      assertThat(call("PUT", in("/groups/" + one + "/assigned"), name)).isEqualTo(204);
    }
    assertThat(call("POST", in("/groups/" + group + "/tickets"), "{\"key\":\"LOG-1\"}"))
        .isEqualTo(200);
    String cause = "{\"category\":\"Environment fault\"}";
    assertThat(call("POST", in("/groups/" + group + "/decision"), cause)).isEqualTo(200);
    String panels =
        "{\"kind\":\"tickets\",\"title\":\"The tickets\",\"days\":3660,\"height\":3,\"y\":0},"
            + "{\"kind\":\"people\",\"title\":\"The people\",\"days\":3660,\"height\":3,\"y\":3}";
    JsonNode board = said("POST", in("/boards"), "{\"name\":\"Who\",\"panels\":[" + panels + "]}");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/" + project + "/boards/" + board.path("id").asText());
      Map<String, String> links = new LinkedHashMap<>();
      for (String title : List.of("The tickets", "The people")) {
        Locator panel =
            page.getByRole(
                AriaRole.REGION, new Page.GetByRoleOptions().setName(title).setExact(true));
        assertThat(panel.locator("tbody tr")).hasCount(1);
        for (Locator link : panel.locator("td a").all()) {
          links.put(String.valueOf(link.getAttribute("href")), link.innerText());
        }
      }
      // Groups, failures and runs of the ticket; what is explained and what is not.
      assertThat(links.values()).containsExactly("1", "2", "2", "1", "1");
      for (Map.Entry<String, String> link : links.entrySet()) {
        page.navigate(portal.url + link.getKey());
        assertThat(page.getByRole(AriaRole.STATUS).first())
            .hasText(Pattern.compile("^" + link.getValue() + " (result|run|group)s?\\b.*"));
      }
      browsing.noErrors();
    }
  }

  @Test
  void nothingIsCalledThatNobodyAllowedAndTheSecretStaysWhereItIs() {
    String elsewhere = "http://localhost:" + portal.url.replaceAll(".*:", "");
    String trial =
        Portal.JSON
            .createObjectNode()
            .put("text", "gauge")
            .set("settings", settings(elsewhere))
            .toString();
    JsonNode refused = said("POST", in("/tracker/trial"), trial);
    assertThat(refused.path("detail").asText()).contains("has not allowed", elsewhere);
    JsonNode shown = said("GET", in("/tracker"), null);
    assertThat(shown.path("hasSecret").asBoolean()).isTrue();
    assertThat(shown.toString()).doesNotContain(TrackerStandIn.SECRET);
    for (String[] wrong :
        new String[][] {
          {"find", "file:///etc/passwd?{text}"},
          {"find", "http://user@host/{text}"},
          {"find", "http://{text}/"},
          {"read", "http://other.example/{key}"},
          {"read", tracker.url() + "/api/entries/1"},
          {"createBody", "{\"title\": \"{secret}\"}"},
          {"header", "Host: {secret}"},
          {"header", "X: a\\u0007b"},
          {"keyAt", "key"},
          {"stateAt", ""},
          {"textAt", ""}
        }) {
      ObjectNode settings = settings(tracker.url());
      settings.put(wrong[0], wrong[1].replace("\\u0007", "\u0007"));
      HttpResponse<String> answer = people.call(admin, "PUT", in("/tracker"), kept(1, settings));
      assertThat(answer.statusCode()).as("%s: %s", wrong[0], answer.body()).isEqualTo(400);
    }
    assertThat(said("GET", in("/tracker"), null).path("version").asInt()).isEqualTo(1);
  }
}
