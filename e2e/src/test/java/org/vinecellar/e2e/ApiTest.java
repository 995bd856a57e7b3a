package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The API as a program finds it: its errors, pages, headers and files. */
@OnSharedPortal
class ApiTest {
  private static final Pattern NEXT = Pattern.compile("<([^>]+)>; rel=\"next\"");

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private JsonNode push(String stream, String xml, String... fields) throws IOException {
    Files.writeString(work.resolve("r.xml"), xml);
    List<String> words = new ArrayList<>(List.of("-F", "stream=" + stream, "-F", "file=@r.xml"));
    for (String field : fields) {
      words.addAll(List.of("-F", field));
    }
    words.add(portal.url + "/api/v1/projects/main/uploads");
    return Portal.json(portal.curl(work, words.toArray(String[]::new)).out());
  }

  private long runId(String stream) {
    return portal.get("/api/v1/projects/main/runs?stream=" + stream).get(0).path("id").asLong();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "GET | /api/v1/projects/main/runs?number=1 | 400 | invalid-value | name the stream, as in"
            + " ?stream=booking-api/nightly",
        "GET | /api/v1/projects/main/runs?stream=s&limit=0 | 400 | invalid-value | limit is 0; it"
            + " goes from 1 to 200",
        "GET | /api/v1/projects/main/runs?stream=s&limit=many | 400 | invalid-value | a"
            + " parameter of the address is not what it should be, such as a number; see"
            + " /api/v1/openapi",
        "GET | /api/v1/projects/main/runs?stream=s&cursor=x | 400 | invalid-value | the cursor is"
            + " not one of ours; begin again without it",
        "GET | /api/v1/projects/main/runs/999999 | 404 | not-found | project “main” has no run"
            + " “999999”",
        "GET | /api/v1/projects/main/runs/999999/results?filter=outcome+eq+%22exploded%22 | 400 |"
            + " invalid-value | filter, position 12: “outcome” is never “exploded”; it is one of:"
            + " passed, skipped, not reached, failed, errored",
        "GET | /api/v1/projects/main/runs?filter=opne+eq+true | 400 | invalid-value | filter,"
            + " position 1: a run has no “opne”; did you mean “open”?",
        "GET | /api/v1/projects/main/tests?filter=name+xx+3 | 400 | invalid-value | filter, position"
            + " 6: “xx” stands here, where eq, ne, co, sw, ew, gt, ge, lt, le or pr could",
        "GET | /api/v1/projects/main/tests?fliter=name+pr | 400 | invalid-value | the address has a"
            + " parameter “fliter” that is not known here; there are: cursor, filter, limit",
        "GET | /api/v1/projects/nowhere | 404 | not-found | there is no project “nowhere” that"
            + " you may see",
        "GET | /api/v1/nothing | 404 | not-found | the API has no such address; its document is at"
            + " /api/v1/openapi",
        "POST | /api/v1/projects/main/uploads | 400 | invalid-value | the Content-Type names no"
            + " boundary; send a form (multipart/form-data, RFC 7578)",
      })
  void errorsSayWhatToDo(String method, String path, int status, String code, String detail) {
    HttpResponse<String> answer = portal.send(method, path, portal.token);

    JsonNode problem = Portal.json(answer.body());
    assertThat(problem.path("detail").asText()).isEqualTo(detail);
    assertThat(answer.statusCode()).isEqualTo(status).isEqualTo(problem.path("status").asInt());
    assertThat(problem.path("type").asText()).isEqualTo("urn:vine-cellar:problem:" + code);
    assertThat(problem.path("title").asText()).isNotBlank();
    assertThat(answer.headers().firstValue("Content-Type").orElse(""))
        .startsWith("application/problem+json");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "build_url=javascript:alert(1) | the build URL “javascript:alert(1)” does not begin with"
            + " http or https",
        "expect_parts=none | expect_parts is “none”, which is not a number",
        "expect_parts=0 | the number of parts to expect is 0; it goes from 1 to 10000",
        "label=team | the label “team” is not of the form key=value",
        "label==fares | label",
        "label=team=x;label=team=y | the label “team” is given twice, as “x” and as “y”",
        "colour=red | there is no field “colour”",
      })
  void fieldsOfAnUploadAreChecked(String field, String message) throws IOException {
    JsonNode problem =
        push("api/fields", "<testsuite><testcase name='a'/></testsuite>", field.split(";"));

    assertThat(problem.path("detail").asText()).contains(message);
    assertThat(problem.path("status").asInt()).isEqualTo(400);
    assertThat(portal.get("/api/v1/projects/main/streams?name=api/fields")).isEmpty();
  }

  @Test
  void filtersThatAreTooLongAreRefusedWithWords() throws Exception {
    String runs = "/api/v1/projects/main/runs?filter=";
    String term = "branch+eq+%22%C3%BC%22+or+";
    for (int terms : new int[] {1, 100, 190, 400, 2000}) {
      String filter = term.repeat(terms) + "open+eq+true";
      HttpResponse<String> answer = portal.send("GET", runs + filter, portal.token);
      String told = Portal.json(answer.body()).path("detail").asText("");
      switch (terms) {
        case 400 -> {
          assertThat(answer.statusCode()).isEqualTo(400);
          assertThat(told).contains("at most 4000 characters");
        }
        case 2000 -> {
          assertThat(answer.statusCode()).isEqualTo(413);
          assertThat(told).contains("the address is longer than 16384 bytes");
        }
        default -> assertThat(answer.statusCode()).as("%d terms", terms).isEqualTo(200);
      }
    }
  }

  @Test
  void pagesAreFollowedByTheirLinks() throws IOException {
    StringBuilder cases = new StringBuilder();
    for (int i = 0; i < 53; i++) {
      cases.append("<testcase name='t").append(i).append("'>");
      cases.append(i % 9 == 0 ? "<failure message='f'/>" : "").append("</testcase>");
    }
    for (int i = 0; i < 7; i++) {
      push("api/pages", "<testsuite name='page" + i + "'>" + cases + "</testsuite>", "run=b" + i);
    }
    // Groups arrive a moment after the upload; what is compared below has them already.
    assertThat(portal.vine(work, "wait", "api/pages#7").code()).isZero();
    String results = "/api/v1/projects/main/runs/" + runId("api/pages") + "/results";
    List<JsonNode> all = walk(results + "?limit=500");

    assertThat(all).hasSize(53);
    assertThat(walk(results + "?limit=10")).isEqualTo(all);
    assertThat(walk(results + "?limit=2&filter=outcome+eq+%22failed%22+and+text+co+%22T%22"))
        .hasSize(6);
    // What a filter lets through may change though the run does not.
    assertThat(portal.send("GET", results, portal.token).headers().firstValue("ETag")).isPresent();
    assertThat(
            portal
                .send("GET", results + "?filter=started+gt+%22-PT1M%22", portal.token)
                .headers()
                .firstValue("ETag"))
        .isEmpty();
    // Signs that mean something in addresses stay what they are from page to page.
    String odd = "&filter=not+%28firstLine+co+%22%7Bf%7D%26%25%2B%22%29";
    assertThat(walk(results + "?limit=10" + odd)).isEqualTo(all);
    assertThat(walk("/api/v1/projects/main/runs?stream=api/pages&limit=3&filter=number+lt+6"))
        .extracting(run -> run.path("number").asInt())
        .containsExactly(5, 4, 3, 2, 1);
    assertThat(walk("/api/v1/projects/main/runs?limit=3&filter=stream+eq+%22api/pages%22"))
        .extracting(run -> run.path("number").asInt())
        .containsExactly(7, 6, 5, 4, 3, 2, 1);
    assertThat(walk("/api/v1/projects/main/tests?limit=20&filter=suite+eq+%22page3%22"))
        .hasSize(53);
    assertThat(walk("/api/v1/projects/main/runs?stream=api/pages&limit=3"))
        .extracting(run -> run.path("number").asInt())
        .containsExactly(7, 6, 5, 4, 3, 2, 1);
  }

  /** Everything from a page on, by the Link header of each. */
  private List<JsonNode> walk(String first) {
    List<JsonNode> all = new ArrayList<>();
    String path = first;
    while (path != null) {
      HttpResponse<String> page = portal.send("GET", path, portal.token);
      Portal.json(page.body()).forEach(all::add);
      Matcher link = NEXT.matcher(page.headers().firstValue("Link").orElse(""));
      URI next = link.find() ? URI.create(link.group(1)) : null;
      path = next == null ? null : next.getRawPath() + "?" + next.getRawQuery();
    }
    return all;
  }

  @Test
  void aFileComesBackAsItWasSent() throws IOException {
    String xml = "<testsuite name='Höfn'><testcase name='a'/></testsuite>\n<!-- kept -->";
    push("api/raw", xml);
    String files = "/api/v1/projects/main/runs/" + runId("api/raw") + "/parts/1/files/";

    HttpResponse<byte[]> raw = bytes(files + "0");
    assertThat(raw.headers().firstValue("Content-Disposition").orElse("")).startsWith("attachment");
    try (GZIPInputStream in = new GZIPInputStream(new ByteArrayInputStream(raw.body()))) {
      assertThat(new String(in.readAllBytes(), StandardCharsets.UTF_8)).isEqualTo(xml);
    }
    assertThat(bytes(files + "1").statusCode()).isEqualTo(404);
  }

  private HttpResponse<byte[]> bytes(String path) {
    try {
      return java.net.http.HttpClient.newHttpClient()
          .send(
              HttpRequest.newBuilder(URI.create(portal.url + path))
                  .header("Authorization", "Bearer " + portal.token)
                  .build(),
              HttpResponse.BodyHandlers.ofByteArray());
    } catch (IOException | InterruptedException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void aPackedFileIsUnpacked() throws IOException {
    try (var out = new GZIPOutputStream(Files.newOutputStream(work.resolve("r.xml.gz")))) {
      out.write(
          "<testsuite name='s'><testcase name='a'/></testsuite>".getBytes(StandardCharsets.UTF_8));
    }
    Shell.Result push = portal.vine(work, "push", "r.xml.gz", "--stream", "api/packed");

    assertThat(push.out()).as(push.err()).startsWith("api/packed#1  1 passed");
  }

  @Test
  void theContentTellsTheFormat() throws IOException {
    Files.writeString(
        work.resolve("fares.tap"),
        "TAP version 14\n1..2\nok 1 - adds\nnot ok 2 - rounds\n  ---\n  message: half a cent\n  ...\n");
    Shell.Result push = portal.vine(work, "push", "fares.tap", "--stream", "api/tap");
    assertThat(push.out()).as(push.err()).startsWith("api/tap#1  1 failed, 1 passed");
    Shell.Result show = portal.vine(work, "show", "api/tap");
    assertThat(show.out()).contains("◆ failed   fares › rounds", "half a cent");

    JsonNode parts = portal.get("/api/v1/projects/main/runs/" + runId("api/tap") + "/parts");
    assertThat(parts.get(0).path("files").get(0).path("format").asText()).isEqualTo("tap");
  }

  private static String scenario(String last) {
    String passed = ", \"result\": {\"status\": \"passed\", \"duration\": 5000000}}";
    return "[{\"uri\": \"a.feature\", \"keyword\": \"Feature\", \"name\": \"Moorings\", \"elements\":"
        + " [{\"type\": \"scenario\", \"keyword\": \"Scenario\", \"name\": \"a rope\", \"steps\": ["
        + "{\"keyword\": \"Given \", \"name\": \"a pier of 3 berths\""
        + passed
        + ", {\"keyword\": \"When \", \"name\": \"it moors\""
        + passed
        + ", "
        + last
        + "]}]}]";
  }

  @Test
  void theStepsOfTwoResultsStandBesideEachOther() throws IOException {
    String failed =
        ", \"result\": {\"status\": \"failed\", \"error_message\": \"java.lang.AssertionError: slack\"}}";
    JsonNode unused =
        push(
            "api/steps",
            scenario(
                "{\"keyword\": \"Then \", \"name\": \"it holds\", \"result\": {\"status\": \"passed\"}}"));
    unused =
        push(
            "api/steps",
            scenario(
                    "{\"keyword\": \"And \", \"name\": \"waits\""
                        + failed
                        + ", {\"keyword\": \"Then \", \"name\": \"it holds\", \"result\": {\"status\": \"skipped\"}}")
                .replace("3 berths", "4 berths"));
    JsonNode runs = portal.get("/api/v1/projects/main/runs?stream=api/steps");
    String path = "/api/v1/projects/main/runs/" + runs.get(0).path("id") + "/results/1-0/steps";
    String other = "?otherRun=" + runs.get(1).path("id") + "&otherResult=1-0";
    StringBuilder told = new StringBuilder();
    for (JsonNode row : portal.get(path + other)) {
      told.append(row.path("before").path("outcome").asText("-")).append(' ');
      told.append(row.path("now").path("outcome").asText("-")).append(' ');
      told.append(row.path("now").path("text").asText()).append('\n');
    }
    assertThat(told.toString())
        .isEqualTo(
            """
            passed passed Given a pier of 4 berths
            passed passed When it moors
            - failed And waits
            passed skipped Then it holds
            """);
    for (String wrong : List.of("", other + "9", other + "&attempt=2", other + "&attempt=0")) {
      assertThat(portal.send("GET", path + wrong, portal.token).statusCode())
          .as(wrong)
          .isEqualTo(wrong.isEmpty() ? 400 : 404);
    }
  }

  @Test
  void everyAnswerForbidsWhatABrowserNeedNotDo() {
    for (String path : List.of("/", "/main/runs", "/api/v1/openapi", "/favicon.svg")) {
      var headers = portal.send("GET", path, null).headers();
      assertThat(headers.firstValue("X-Content-Type-Options")).as(path).hasValue("nosniff");
      assertThat(headers.firstValue("X-Frame-Options")).as(path).hasValue("DENY");
      assertThat(headers.firstValue("Content-Security-Policy").orElse(""))
          .as(path)
          .contains("default-src 'self'")
          .doesNotContain("unsafe");
    }
  }

  @Test
  void theConsoleAnswersUnderItsOwnAddressesAndNotForTheApi() {
    HttpResponse<String> view = portal.send("GET", "/main/runs/fares/nightly/12", null);
    assertThat(view.body()).contains("<div id=\"root\">");
    assertThat(view.headers().firstValue("Cache-Control")).hasValue("no-cache");
    Matcher script = Pattern.compile("src=\"(/assets/[^\"]+\\.js)\"").matcher(view.body());
    assertThat(script.find()).isTrue();
    assertThat(portal.send("GET", script.group(1), null).headers().firstValue("Cache-Control"))
        .hasValue("public, max-age=31536000, immutable");
    assertThat(portal.send("GET", "/assets/none.js", null).statusCode()).isEqualTo(404);
  }

  @Test
  void healthAndReadinessAreTold() {
    for (String path : List.of("/health/live", "/health/ready")) {
      HttpResponse<String> answer = portal.send("GET", path, null);
      assertThat(answer.statusCode()).isEqualTo(200);
      assertThat(Portal.json(answer.body()).path("status").asText()).isEqualTo("UP");
    }
    assertThat(portal.send("GET", "/metrics", null).statusCode()).isEqualTo(401);
    People.SignedIn admin = new People(portal).signIn(portal.user, portal.password);
    HttpRequest.Builder metrics = HttpRequest.newBuilder(URI.create(portal.url + "/metrics"));
    admin.headers().forEach(metrics::header);
    assertThat(portal.send(metrics.build()).body()).contains("http_server_requests");
  }
}
