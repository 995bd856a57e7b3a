package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/**
 * A week of the demo's nights in a project of their own: a lead sorts them from the keyboard, and
 * the next night arrives explained.
 */
@OnSharedPortal
class WeekTest {
  private static final int MOST_DECISIONS = 14;
  private static final String[] STREAMS = {
    "booking-api/nightly",
    "booking-api/change",
    "quayside-kiosk/browser",
    "timetable-rules/scenarios",
    "deckhand-app/device",
    "fare-tables/properties"
  };

  /** What a lead knows of the causes, by what the desk calls them. */
  private static final Map<String, String> KNOWN =
      Map.of(
          "no fare in the table", "4",
          "refuses connections", "3",
          "certificate", "3",
          "storm-notice", "5",
          "booking.snap", "5",
          "season_pass", "3",
          "receipt", "2");

  private final Portal portal = Portal.shared();
  private final String project = "week";
  private String token;

  @BeforeEach
  void freshProject() {
    People people = new People(portal);
    People.SignedIn admin = people.signIn(portal.user, portal.password);
    assertThat(
            people
                .call(admin, "POST", "/projects", "{\"key\":\"week\",\"name\":\"A week\"}")
                .statusCode())
        .isEqualTo(201);
    token =
        Portal.json(
                people.call(admin, "POST", "/projects/week/tokens", "{\"name\":\"demo\"}").body())
            .path("secret")
            .asText();
  }

  private void nights(int first, int last) {
    String day = LocalDate.now(ZoneOffset.UTC).minusDays(2).toString();
    List<String> command =
        List.of(
            "java",
            "-XX:+UseSerialGC",
            "-cp",
            Shell.ROOT.resolve("demo/target/demo-0.1.0.jar")
                + ":"
                + Shell.ROOT.resolve("client/target/vine.jar"),
            "org.vinecellar.demo.Demo",
            portal.url,
            day,
            String.valueOf(first),
            String.valueOf(last));
    Shell.Result loaded = Shell.run(Path.of("."), Map.of("VINE_TOKEN", token), command);
    assertThat(loaded.code()).as(loaded.out() + loaded.err()).isZero();
  }

  private List<JsonNode> failures(int from) {
    List<JsonNode> lines = new ArrayList<>();
    for (String stream : STREAMS) {
      String path = "/api/v1/projects/week/failures?limit=2000&stream=" + stream + "&from=" + from;
      portal
          .send(
              HttpRequest.newBuilder(URI.create(portal.url + path))
                  .header("Authorization", "Bearer " + token)
                  .build())
          .body()
          .transform(Portal::json)
          .forEach(lines::add);
    }
    return lines;
  }

  @Test
  void aWeekIsSortedFromTheKeyboardAndTheNextNightArrivesExplained() {
    nights(28, 34);
    List<JsonNode> week = failures(1);
    assertThat(week).hasSizeGreaterThan(300);
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/" + project + "/triage?days=30");
      assertThat(page.getByText("groups to sort")).isVisible();
      Browsing.isAccessible(page);
      Page other = browsing.signedIn(portal, "/" + project + "/triage?days=30");
      String looksAt = chosen(other).innerText();
      int decisions = sort(page);
      assertThat(decisions).isLessThanOrEqualTo(MOST_DECISIONS);
      assertThat(failures(1))
          .hasSize(week.size())
          .allSatisfy(line -> assertThat(line.path("category").isNull()).isFalse());

      // Somebody else, on the same desk, sees it without a reload, and still looks at the same.
      assertThat(other.getByText("Nothing to sort")).isVisible();
      assertThat(chosen(other)).hasText(looksAt);
      page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Explained")).click();
      assertThat(
              page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Chosen group")))
          .isVisible();
      // The list of those comes a moment later.
      assertThat(
              page.getByRole(
                  AriaRole.GROUP, new Page.GetByRoleOptions().setName("List of failure groups")))
          .isVisible();
      page.keyboard().press("j");
      page.keyboard().press("u");
      assertThat(other.getByText("1 group to sort")).isVisible();
      page.keyboard().press("1");
      assertThat(other.getByText("Nothing to sort")).isVisible();

      nights(35, 35);
      List<JsonNode> night = failures(8);
      assertThat(night).hasSizeGreaterThan(50);
      assertThat(night)
          .allSatisfy(
              line -> assertThat(line.path("origin").asText()).as("%s", line).isEqualTo("carried"));
      assertThat(page.getByText("Nothing to sort")).isVisible();
      browsing.noErrors();
    }
  }

  private static Locator chosen(Page page) {
    return page.getByRole(AriaRole.REGION, new Page.GetByRoleOptions().setName("Chosen group"))
        .getByRole(AriaRole.HEADING)
        .first();
  }

  /** Digit, next, digit, next; how many digits it took. */
  private static int sort(Page page) {
    Pattern left = Pattern.compile("(\\d+) groups? to sort");
    var told = page.getByRole(AriaRole.MAIN).getByRole(AriaRole.STATUS).first();
    int decisions = 0;
    while (decisions <= MOST_DECISIONS) {
      Matcher matcher = left.matcher(told.innerText());
      if (!matcher.find()) {
        return decisions;
      }
      int groups = Integer.parseInt(matcher.group(1));
      String called = chosen(page).innerText();
      page.keyboard()
          .press(
              KNOWN.entrySet().stream()
                  .filter(one -> called.contains(one.getKey()))
                  .map(Map.Entry::getValue)
                  .findFirst()
                  .orElse("1"));
      decisions++;
      assertThat(told)
          .containsText(
              groups == 1
                  ? "Nothing to sort"
                  : groups == 2 ? "1 group to sort" : groups - 1 + " groups to sort");
      page.keyboard().press("n");
    }
    return decisions;
  }
}
