package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every bad input, through the client and through curl: its message, and nothing kept. */
class BadInputTest {
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private static final Map<String, String> REFUSED = new LinkedHashMap<>();

  static {
    REFUSED.put("", "is empty; the test run probably ended before it wrote its results");
    REFUSED.put("<testsuite><testcase name='a'>", "ends too early at line 1");
    REFUSED.put("Tests run: 12", "is of no known kind");
    REFUSED.put(
        "<!DOCTYPE html><html><head><title>502 Bad Gateway</title>",
        "is a web page (“502 Bad Gateway”)");
    REFUSED.put(
        "<!DOCTYPE testsuite SYSTEM 'file:///etc/passwd'><testsuite/>",
        "has a document type declaration");
    REFUSED.put(
        "<!DOCTYPE testsuite [<!ENTITY a 'ha'><!ENTITY b '&a;&a;&a;&a;'>]><testsuite name='&b;'/>",
        "has a document type declaration");
    REFUSED.put("<testsuite><testcase name='a'/></suite>", "is not well-formed XML at line 1");
    REFUSED.put("<testsuite name='" + "s".repeat(30_000) + "'/>", "has a name of 30000 characters");
    REFUSED.put("<testsuite name='s'>".repeat(600), "nests suites deeper than 512");
  }

  @Test
  void isRefusedWithItsMessage() throws IOException {
    for (Map.Entry<String, String> bad : REFUSED.entrySet()) {
      Files.writeString(work.resolve("bad.xml"), bad.getKey());
      Files.writeString(
          work.resolve("good.xml"), "<testsuite name='s'><testcase name='a'/></testsuite>");

      Shell.Result push = portal.vine(work, "push", "good.xml", "bad.xml", "--stream", "bad/input");
      assertThat(push.code()).as(push.err()).isEqualTo(4);
      assertThat(push.err())
          .contains("bad.xml " + bad.getValue(), "Nothing of the upload was stored.");

      Shell.Result curl =
          portal.curl(
              work,
              "-F",
              "stream=bad/input",
              "-F",
              "file=@good.xml",
              "-F",
              "file=@bad.xml",
              portal.url + "/api/v1/projects/main/uploads");
      JsonNode problem = Portal.json(curl.out());
      assertThat(problem.path("status").asInt()).isEqualTo(422);
      assertThat(problem.path("type").asText())
          .isEqualTo("urn:vine-cellar:problem:unreadable-file");
      assertThat(problem.path("files").get(0).path("error").asText()).startsWith(bad.getValue());
    }
    assertThat(portal.get("/api/v1/projects/main/streams?name=bad/input")).isEmpty();
  }

  @Test
  void oddButReadableInputIsKeptAndMarked() throws IOException {
    String text =
        "<testsuite name='s'><testcase name='bell&#7;' time='NaN'/><testcase name='minus' time='-1'/>"
            + "<testcase name='same'/><testcase name='same'/><testcase name='"
            + "long ".repeat(2000)
            + "'><failure message='m'>"
            + "x".repeat(5_000_000)
            + "</failure></testcase></testsuite>";
    Files.write(work.resolve("odd.xml"), ("\uFEFF" + text).getBytes(StandardCharsets.UTF_16LE));

    Shell.Result push = portal.vine(work, "push", "odd.xml", "--stream", "odd/input");
    assertThat(push.code()).as(push.err()).isZero();
    assertThat(push.err())
        .contains("time “NaN” at line 1 is not a duration")
        .contains("1 character that XML does not allow")
        .contains("1 case has the name of another test");
    long run =
        portal
            .get("/api/v1/projects/main/runs?stream=odd/input&number=1")
            .get(0)
            .path("id")
            .asLong();
    JsonNode rows = portal.get("/api/v1/projects/main/runs/" + run + "/results");
    assertThat(rows).hasSize(5);
    String detail =
        "/api/v1/projects/main/runs/" + run + "/results/" + rows.get(0).path("id").asText();
    JsonNode cut = portal.get(detail).path("attempts").get(0).path("failures").get(0).path("trace");
    assertThat(cut.path("cut").asBoolean()).isTrue();
    assertThat(cut.path("length").asInt()).isEqualTo(5_000_000);
    JsonNode whole =
        portal
            .get(detail + "?full=true")
            .path("attempts")
            .get(0)
            .path("failures")
            .get(0)
            .path("trace");
    assertThat(whole.path("text").asText()).hasSize(5_000_000);
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
  }
}
