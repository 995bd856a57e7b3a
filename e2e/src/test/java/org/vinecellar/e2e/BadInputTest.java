package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedWriter;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Every bad input, through the client and through curl: its message, and nothing kept by halves.
 */
@OnSharedPortal
class BadInputTest {
  private static final String GOOD = "<testsuite name='s'><testcase name='a'/></testsuite>";

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  /** A file that is refused, and how the message goes on after its name. */
  private record Refused(String what, byte[] content, String message) {
    static Refused of(String what, String text, String message) {
      return new Refused(what, text.getBytes(StandardCharsets.UTF_8), message);
    }

    @Override
    public String toString() {
      return what;
    }
  }

  static Stream<Refused> refused() throws IOException {
    return Stream.of(
        Refused.of("empty", "", "is empty; the test run probably ended before it wrote"),
        Refused.of("blank", " \n ", "is empty; the test run probably ended before it wrote"),
        Refused.of("truncated", "<testsuite><testcase name='a'>", "ends too early at line 1"),
        Refused.of(
            "truncated in a text",
            "<testsuite><testcase name='a'><failure>" + "line\n".repeat(9000),
            "ends too early at line 9001"),
        Refused.of("not XML", "Tests run: 12", "is of no known kind"),
        Refused.of("other XML", "<project><name>x</name></project>", "is of no known kind"),
        Refused.of(
            "HTML error page",
            "<!DOCTYPE html><html><head><title>502 Bad Gateway</title>",
            "is a web page (“502 Bad Gateway”)"),
        Refused.of(
            "external DTD",
            "<!DOCTYPE testsuite SYSTEM 'file:///etc/passwd'><testsuite/>",
            "has a document type declaration"),
        Refused.of(
            "external entity",
            "<!DOCTYPE testsuite [<!ENTITY e SYSTEM 'file:///etc/passwd'>]>"
                + "<testsuite><testcase name='a'><failure>&e;</failure></testcase></testsuite>",
            "has a document type declaration"),
        Refused.of(
            "entity bomb",
            "<!DOCTYPE testsuite [<!ENTITY a 'ha'><!ENTITY b '&a;&a;&a;&a;'>]>"
                + "<testsuite name='&b;'/>",
            "has a document type declaration"),
        Refused.of(
            "unknown entity",
            "<testsuite><testcase name='a'><failure>&lol;</failure></testcase></testsuite>",
            "uses the entity “lol” at line 1"),
        Refused.of(
            "not well-formed",
            "<testsuite>\n<testcase name='a'/>\n</suite>",
            "is not well-formed XML at line 3"),
        Refused.of(
            "unknown encoding",
            "<?xml version='1.0' encoding='klingon'?>" + GOOD,
            "declares the encoding “klingon”"),
        Refused.of(
            "a name of 30 000 characters",
            "<testsuite name='" + "s".repeat(30_000) + "'/>",
            "has a name of 30000 characters"),
        Refused.of(
            "600 nested suites", "<testsuite name='s'>".repeat(600), "nests suites deeper than"),
        new Refused("damaged gzip", halfOfGzip(), "is gzip by its first bytes, but is damaged"));
  }

  /** Each would cost a stack or a heap whole. */
  @ParameterizedTest
  @ValueSource(strings = {"[", "{a: ", "- ", "? ", "&a [*a, "})
  void whatNestsWithoutEndIsReadAsText(String nesting) throws IOException {
    String tap =
        "TAP version 13\n1..1\nnot ok 1 - quay\n  ---\n  message: "
            + nesting.repeat(20_000)
            + "\n  ...\n";
    Path file = Files.writeString(work.resolve("deep.tap"), tap);
    Shell.Result push = portal.vine(work, "push", file.toString(), "--stream", "bad/deep");
    assertThat(push.code()).as(push.err()).isZero();
    assertThat(push.out()).contains("1 failed (1 test in 1 file)");
  }

  private static byte[] halfOfGzip() throws IOException {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
      gzip.write(GOOD.repeat(2000).getBytes(StandardCharsets.UTF_8));
    }
    return Arrays.copyOf(packed.toByteArray(), packed.size() / 2);
  }

  @ParameterizedTest
  @MethodSource
  void refused(Refused bad) throws IOException {
    Files.write(work.resolve("bad.xml"), bad.content());
    Files.writeString(work.resolve("good.xml"), GOOD);

    Shell.Result check = portal.vine(work, "check", "good.xml", "bad.xml");
    assertThat(check.code()).isEqualTo(4);
    assertThat(check.err()).contains("bad.xml " + bad.message());

    Shell.Result push = portal.vine(work, "push", "good.xml", "bad.xml", "--stream", "bad/input");
    assertThat(push.code()).as(push.err()).isEqualTo(4);
    assertThat(push.err())
        .contains(
            "bad.xml " + bad.message(), "good.xml is fine. Nothing of the upload was stored.");
    Shell.Result json =
        portal.vine(work, "push", "good.xml", "bad.xml", "--stream", "bad/input", "--json");
    assertThat(json.out()).contains("\"files\":[{\"file\":\"bad.xml\",\"error\":\"");

    JsonNode problem = curl("bad/input", "good.xml", "bad.xml");
    assertThat(problem.path("status").asInt()).isEqualTo(422);
    assertThat(problem.path("type").asText()).isEqualTo("urn:vine-cellar:problem:unreadable-file");
    assertThat(problem.path("files").get(0).path("error").asText()).startsWith(bad.message());
    assertThat(portal.get("/api/v1/projects/main/streams?name=bad/input")).isEmpty();
  }

  private JsonNode curl(String stream, String... files) {
    List<String> words = new java.util.ArrayList<>(List.of("-F", "stream=" + stream));
    for (String file : files) {
      words.addAll(List.of("-F", "file=@" + file));
    }
    words.add(portal.url + "/api/v1/projects/main/uploads");
    return Portal.json(portal.curl(work, words.toArray(String[]::new)).out());
  }

  /** A file that is odd but kept: what is said of it, and what its results are. */
  private record Kept(String what, byte[] content, List<String> problems, Consumer<JsonNode> rows) {
    static Kept of(String what, String cases, List<String> problems, Consumer<JsonNode> rows) {
      String text = "<testsuite name='s'>" + cases + "</testsuite>";
      return new Kept(what, text.getBytes(StandardCharsets.UTF_8), problems, rows);
    }

    @Override
    public String toString() {
      return what;
    }
  }

  private static final String REPLACED = "that XML does not allow, or wrong UTF-8, replaced";

  static Stream<Kept> kept() {
    String long10000 = "n".repeat(10_000);
    byte[] wrong = "<testsuite name='s'><testcase name='a?b'/></testsuite>".getBytes(UTF_8);
    wrong[new String(wrong, UTF_8).indexOf('?')] = (byte) 0xE5;
    String wide = "\uFEFF<testsuite name='s'><testcase name='Île d’Höfn 🚢'/></testsuite>";
    return Stream.of(
        new Kept(
            "invalid UTF-8",
            wrong,
            List.of("1 character " + REPLACED),
            rows -> assertThat(name(rows, 0)).isEqualTo("a\uFFFDb")),
        new Kept(
            "UTF-16, little end first",
            wide.getBytes(StandardCharsets.UTF_16LE),
            List.of(),
            rows -> assertThat(name(rows, 0)).isEqualTo("Île d’Höfn 🚢")),
        new Kept(
            "UTF-16, big end first",
            wide.getBytes(StandardCharsets.UTF_16BE),
            List.of(),
            rows -> assertThat(name(rows, 0)).isEqualTo("Île d’Höfn 🚢")),
        Kept.of(
            "control characters in a message",
            "<testcase name='bell'><failure message='ring &#7; and \u0001 and &#27;[31mred'/>"
                + "</testcase>",
            List.of("3 characters " + REPLACED),
            rows ->
                assertThat(rows.get(0).path("firstLine").asText())
                    .isEqualTo("ring \uFFFD and \uFFFD and red")),
        Kept.of(
            "odd times",
            "<testcase name='minus' time='-1'/><testcase name='nan' time='NaN'/>"
                + "<testcase name='comma' time='0,25'/><testcase name='many' time='1,234.5'/>",
            List.of("time “-1” at line 1 is not a duration", "time “NaN” at line 1"),
            rows -> {
              assertThat(rows.get(0).path("durationMs").isNull()).isTrue();
              assertThat(rows.get(1).path("durationMs").isNull()).isTrue();
              assertThat(rows.get(2).path("durationMs").asDouble()).isEqualTo(250);
              assertThat(rows.get(3).path("durationMs").asDouble()).isEqualTo(1_234_500);
            }),
        Kept.of(
            "200 nested suites",
            "<testsuite name='d'>".repeat(199)
                + "<testcase name='deep'/>"
                + "</testsuite>".repeat(199),
            List.of(),
            rows -> assertThat(rows.get(0).path("suite")).hasSize(200)),
        Kept.of(
            "duplicate names",
            "<testcase name='same'/><testcase name='same'/><testcase name='same'/>",
            List.of(),
            rows ->
                assertThat(rows.findValuesAsText("parameters"))
                    .containsExactly("null", "#2", "#3")),
        Kept.of(
            "a name of 10 000 characters",
            "<testcase name='" + long10000 + "'/>",
            List.of(),
            rows -> assertThat(name(rows, 0)).isEqualTo(long10000)),
        Kept.of(
            "a count that is wrong",
            "<testsuite name='t' tests='9' failures='2'><testcase name='a'/></testsuite>",
            List.of("suite “t” (line 1) says it has 9 tests, but holds 1"),
            rows -> {
              assertThat(rows.get(0).path("firstLine").asText())
                  .startsWith("the suite says that 2 failed, but shows none that did");
              assertThat(name(rows, 1)).isEqualTo("a");
            }));
  }

  private static final java.nio.charset.Charset UTF_8 = StandardCharsets.UTF_8;

  private static String name(JsonNode rows, int at) {
    return rows.get(at).path("name").asText();
  }

  @ParameterizedTest
  @MethodSource
  void kept(Kept odd) throws IOException {
    Files.write(work.resolve("odd.xml"), odd.content());
    String stream = "odd/" + odd.what().replaceAll("[^A-Za-z0-9]+", "-");

    Shell.Result push = portal.vine(work, "push", "odd.xml", "--stream", stream);
    assertThat(push.code()).as(push.err()).isZero();
    odd.problems().forEach(problem -> assertThat(push.err()).contains(problem));
    JsonNode receipt = curl(stream + "-by-curl", "odd.xml");
    JsonNode said = receipt.path("files").get(0).path("problems");
    assertThat(said).as(said.toString()).hasSize(odd.problems().size());
    odd.problems().forEach(problem -> assertThat(said.toString()).contains(problem));

    JsonNode rows = results(stream);
    odd.rows().accept(rows);
    JsonNode byCurl = results(stream + "-by-curl");
    for (String field : List.of("suite", "name", "parameters", "outcome", "durationMs")) {
      assertThat(byCurl.findValues(field)).isEqualTo(rows.findValues(field));
    }
  }

  private JsonNode results(String stream) {
    return portal.get("/api/v1/projects/main/runs/" + run(stream) + "/results");
  }

  private long run(String stream) {
    JsonNode runs = portal.get("/api/v1/projects/main/runs?stream=" + stream + "&number=1");
    return runs.get(0).path("id").asLong();
  }

  @Test
  void aMessageOf5MillionCharactersIsKeptAndCutForDisplay() throws IOException {
    Files.writeString(
        work.resolve("long.xml"),
        "<testsuite name='s'><testcase name='a'><failure message='m'>"
            + "x".repeat(5_000_000)
            + "</failure></testcase></testsuite>");
    assertThat(portal.vine(work, "push", "long.xml", "--stream", "long/vine").code()).isZero();
    assertThat(curl("long/curl", "long.xml").path("number").asInt()).isEqualTo(1);

    for (String stream : List.of("long/vine", "long/curl")) {
      String detail =
          "/api/v1/projects/main/runs/"
              + run(stream)
              + "/results/"
              + results(stream).get(0).path("id").asText();
      JsonNode cut = portal.get(detail).findValue("trace");
      assertThat(cut.path("cut").asBoolean()).isTrue();
      assertThat(cut.path("length").asInt()).isEqualTo(5_000_000);
      assertThat(portal.get(detail + "?full=true").findValue("trace").path("text").asText())
          .hasSize(5_000_000);
    }
  }

  @Test
  void aMillionCasesAreTakenInAHeapOf512Megabytes() throws IOException {
    try (BufferedWriter out = Files.newBufferedWriter(work.resolve("million.xml"))) {
      out.write("<testsuites>");
      for (int suite = 0; suite < 1000; suite++) {
        out.write("<testsuite name='s" + suite + "'>");
        for (int i = 0; i < 1000; i++) {
          out.write("<testcase name='t" + i + "' time='0.001'/>");
        }
        out.write("</testsuite>");
      }
      out.write("</testsuites>");
    }
    Shell.Result push =
        portal.vine(work, "push", "million.xml", "--stream", "large/input", "--json");

    assertThat(push.code()).as(push.err()).isZero();
    assertThat(Portal.json(push.out()).path("run").path("passed").asInt()).isEqualTo(1_000_000);
    JsonNode again = curl("large/input-by-curl", "million.xml");
    assertThat(again.path("run").path("passed").asInt()).isEqualTo(1_000_000);
  }

  /** RFC 9112, 3.2: such a request gets 400, whatever it asks for. */
  @ParameterizedTest
  @ValueSource(strings = {"", "Host: a b\r\n", "Host: [::1\r\n", "Host: x\r\nHost: y\r\n"})
  void aRequestNamesOneHost(String host) throws IOException {
    try (Attacker attacker = new Attacker(portal);
        Socket socket = attacker.begin("GET / HTTP/1.1\r\n" + host + "\r\n")) {
      String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer)
          .startsWith("HTTP/1.1 400")
          .contains("urn:vine-cellar:problem:invalid-value", "the request names no host")
          .doesNotContain("error id", "vertx");
    }
  }
}
