package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetSocketAddress;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The client as a pipeline uses it: what it prints, and the code it ends with. */
@OnSharedPortal
class PushTest {
  private static final String REPORT =
      "<testsuite name='FareTest'><testcase name='rounds'/><testcase name='adds'>"
          + "<failure message='expected: &lt;4&gt; but was: &lt;5&gt;'/></testcase></testsuite>";

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Path write(String name, String text) throws IOException {
    Path file = work.resolve(name);
    Files.createDirectories(file.getParent());
    return Files.writeString(file, text);
  }

  @Test
  void pushShowAndRunsTellTheSameStory() throws IOException {
    write("reports/TEST-a.xml", REPORT);
    Shell.Result push =
        portal.vine(
            work,
            "push",
            "reports/*.xml",
            "--stream",
            "push/story",
            "--commit",
            "c0ffee12345678",
            "--branch",
            "main",
            "--label",
            "team=fares",
            "--build-url",
            "https://ci.example/7");

    assertThat(push.code()).as(push.err()).isZero();
    assertThat(push.out())
        .isEqualTo(
            "push/story#1  1 failed, 1 passed (2 tests in 1 file)\n"
                + "  the first run of push/story: 1 new failing\n"
                + "  ◆ failed   FareTest › adds  (new)\n"
                + "             expected: <4> but was: <5>\n  "
                + portal.url
                + "/main/runs/push/story/1\n");
    assertThat(push.err()).isEmpty();

    Shell.Result again =
        portal.vine(
            work,
            "push",
            "reports/*.xml",
            "--stream",
            "push/story",
            "--commit",
            "c0ffee12345678",
            "--build-url",
            "https://ci.example/7");
    assertThat(again.code()).isZero();
    assertThat(again.out()).startsWith("push/story#1  has these files already; nothing changed.");

    Shell.Result show = portal.vine(work, "show", "push/story#1");
    assertThat(show.out())
        .startsWith("push/story#1  1 failed, 1 passed\n  1 new failing\n")
        .contains("c0ffee123456 on main")
        .contains(
            "◆ failed   FareTest › adds  (new)  1-1\n           expected: <4> but was: <5>\n");
    assertThat(portal.vine(work, "runs", "--stream", "push/story").out()).startsWith("#1  ");
    JsonNode json = Portal.json(portal.vine(work, "show", "push/story", "--json").out());
    assertThat(json.path("run").path("labels").path("team").asText()).isEqualTo("fares");
    assertThat(json.path("failing")).hasSize(1);

    String team = "label.team eq \"fares\" and failed eq 1";
    assertThat(portal.vine(work, "runs", "--filter", team).out()).startsWith("push/story#1  ");
    assertThat(portal.vine(work, "show", "push/story", "--filter", "text co \"FARE\"").out())
        .contains("● passed ", "◆ failed ", "2 results fit");
    assertThat(portal.vine(work, "show", "push/story", "--filter", "setUp eq true").out())
        .contains("no result fits the filter");
    assertThat(portal.vine(work, "tests", "--filter", "suite eq \"faretest\"").out().lines())
        .hasSize(2);
    expect(
        5,
        "filter, position 8: “is” stands here",
        portal.vine(work, "runs", "--stream", "push/story", "--filter", "failed is 1"));
    expect(
        3,
        "there is no stream “push/none”",
        portal.vine(work, "runs", "--stream", "push/none", "--filter", "failed eq 1"));
  }

  @Test
  void checkReadsWithoutSending() throws IOException {
    write("a.xml", REPORT);
    write("cut.xml", "<testsuite><testcase name='a'>");

    JsonNode good = Portal.json(portal.vine(work, "check", "a.xml", "--json").out());
    assertThat(good.toString())
        .isEqualTo(
            "{\"files\":[{\"file\":\"a.xml\",\"format\":\"junit-xml\",\"tests\":2,\"passed\":1,"
                + "\"failed\":1,\"errored\":0,\"skipped\":0,\"notReached\":0,\"retried\":0,\"setUps\":0,"
                + "\"problems\":[]}],\"total\":{\"tests\":2,\"passed\":1,\"failed\":1,\"errored\":0,"
                + "\"skipped\":0,\"notReached\":0,\"retried\":0,\"setUps\":0}}");
    Shell.Result bad = portal.vine(work, "check", "a.xml", "cut.xml");
    assertThat(bad.code()).isEqualTo(4);
    assertThat(bad.err()).startsWith("vine: cut.xml ends too early at line 1");
  }

  @Test
  void everythingThatIsWrongIsLoud() throws IOException {
    write("a.xml", REPORT);
    write("none.xml", "<testsuite name='s' tests='0'/>");
    write("notes.txt", "x");

    expect(
        2, "no portal is named", portal.vine(work, "push", "a.xml", "--stream", "s", "--url", " "));
    expect(2, "no stream is named; give --stream", portal.vine(work, "push", "a.xml"));
    expect(2, "no stream is named", portal.vine(work, "push", "a.xml", "--stream", ""));
    expect(
        2,
        "Unknown option: '--steam'",
        portal.vine(work, "push", "a.xml", "--stream", "s", "--steam", "s"));
    expect(
        2,
        "the token does not look like one",
        portal.vine(work, "push", "a.xml", "--stream", "s", "--token", "abc"));
    expect(
        3,
        "no file matches 'out/*.xml'".replace("'", ""),
        portal.vine(work, "push", "out/*.xml", "--stream", "s"));
    expect(3, "the directory . holds", portal.vine(work, "push", "*.json", "--stream", "s"));
    expect(3, "the file holds no test", portal.vine(work, "push", "none.xml", "--stream", "s"));
    expect(
        4,
        "notes.txt is of no known kind",
        portal.vine(work, "push", "notes.txt", "--stream", "s"));
    expect(
        5,
        "the token is not valid: it was mistyped, revoked, or has ended",
        portal.vine(
            work,
            "push",
            "a.xml",
            "--stream",
            "s",
            "--spool",
            work.resolve("spool").toString(),
            "--token",
            "vine_main_aaaaaaaaaaaaaaaaaaaaaaaa"));
    expect(
        2, "the stream “a b” is not a name", portal.vine(work, "push", "a.xml", "--stream", "a b"));
    expect(
        2,
        "at is “yesterday”, which is no time",
        portal.vine(work, "push", "a.xml", "--stream", "s", "--at", "yesterday"));
    expect(
        2,
        "the label “foo” is not of the form key=value",
        portal.vine(work, "push", "a.xml", "--stream", "s", "--label", "foo"));
    expect(
        6,
        "nothing answers at http://127.0.0.1:1",
        portal.vine(work, "push", "a.xml", "--stream", "s", "--url", "http://127.0.0.1:1"));
    assertThat(portal.vine(work, "push", "out/*.xml", "--stream", "s", "--allow-empty").code())
        .isZero();
    assertThat(portal.get("/api/v1/projects/main/streams?name=s")).isEmpty();
  }

  private static void expect(int code, String message, Shell.Result result) {
    assertThat(result.err()).contains(message);
    assertThat(result.code()).as(message).isEqualTo(code);
  }

  @Test
  void aFileForEachOfThousandsOfClassesIsOneUpload() throws IOException {
    for (int i = 0; i < 3000; i++) {
      write(
          "many/TEST-" + i + ".xml",
          "<testsuite name='s" + i + "'><testcase name='a'/></testsuite>");
    }
    Shell.Result push = portal.vine(work, "push", "many/*.xml", "--stream", "push/many");

    assertThat(push.out())
        .as(push.err())
        .startsWith("push/many#1  3000 passed (3000 tests in 3000 files)");
  }

  @Test
  void curlIsEnough() throws IOException {
    write("a.xml", REPORT);
    Shell.Result sent =
        portal.curl(
            work,
            "-F",
            "stream=push/curl",
            "-F",
            "label=team=fares",
            "-F",
            "file=@a.xml",
            portal.url + "/api/v1/projects/main/uploads");

    JsonNode receipt = Portal.json(sent.out());
    assertThat(receipt.path("number").asInt()).isEqualTo(1);
    assertThat(receipt.path("part").path("failed").asInt()).isEqualTo(1);
  }

  @Test
  void thePortalOffersTheClient() throws IOException {
    Path jar = work.resolve("vine.jar");
    portal.curl(work, "-o", jar.toString(), portal.url + "/client/vine.jar");
    Shell.Result version =
        Shell.run(work, Map.of(), List.of("java", "-jar", jar.toString(), "--version"));

    assertThat(version.out()).startsWith("vine 0.1");
  }

  /** A pipeline starts the client often: what makes it quick must not get lost unseen. */
  @Test
  void theClientOfACheckoutStartsFromAnArchive() {
    assertThat(Shell.ROOT.resolve("client/target/vine.jsa")).isNotEmptyFile();
  }

  /** Nor does a link in it lead out of it. */
  @Test
  void whatALinkLeadsToElsewhereIsNotSent(@TempDir Path elsewhere) throws IOException {
    Files.writeString(elsewhere.resolve("secret.xml"), REPORT);
    Files.writeString(elsewhere.resolve("id_rsa"), "s3cr3t");
    Path reports = Files.createDirectories(work.resolve("reports"));
    write("reports/a.xml", REPORT);
    Files.createSymbolicLink(reports.resolve("b.xml"), elsewhere.resolve("secret.xml"));
    Files.createSymbolicLink(reports.resolve("more"), elsewhere);
    Files.createSymbolicLink(reports.resolve("key.txt"), elsewhere.resolve("id_rsa"));

    Shell.Result sent =
        portal.vine(work, "push", "reports/**/*.xml", "--stream", "links/a", "--attach", "reports");

    assertThat(sent.code()).as(sent.err()).isZero();
    assertThat(sent.err()).contains("b.xml is a link that leads elsewhere");
    long run = portal.get("/api/v1/projects/main/runs?stream=links/a").get(0).path("id").asLong();
    String parts = portal.get("/api/v1/projects/main/runs/" + run + "/parts").toString();
    assertThat(parts).contains("reports/a.xml").doesNotContain("b.xml", "secret", "key.txt");
  }

  /** A repository of somebody else's may say where to send; the token does not go there. */
  @Test
  void aForeignRepositoryGetsNeitherTheTokenNorVariables() throws Exception {
    List<String> asked = new CopyOnWriteArrayList<>();
    HttpServer theirs = HttpServer.create(new InetSocketAddress("127.0.0.1", 0), 0);
    theirs.createContext(
        "/",
        call -> {
          asked.add(call.getRequestURI() + " " + call.getRequestHeaders());
          call.sendResponseHeaders(201, -1);
          call.close();
        });
    theirs.start();
    try {
      write("a.xml", REPORT);
      String there = "http://127.0.0.1:" + theirs.getAddress().getPort();
      Map<String, String> settings =
          Map.of(
              "VINE_TOKEN",
              portal.token,
              "XDG_CONFIG_HOME",
              work.resolve("config").toString(),
              "VINE_SPOOL",
              work.resolve("spool").toString(),
              "HARBOUR_SECRET",
              "s3cr3t");
      write("vine.yaml", "url: " + there + "\nstream: foreign/a\n");
      Shell.Result sent = vine(settings, "push", "a.xml");
      assertThat(sent.code()).isEqualTo(2);
      assertThat(sent.err()).contains("a token does not go where only a file of the repository");
      write("vine.yaml", "stream: foreign/a\nenvironment: {commit: HARBOUR_SECRET}\n");
      Map<String, String> known = new HashMap<>(settings);
      known.put("VINE_URL", portal.url);
      Shell.Result published = vine(known, "push", "a.xml");
      assertThat(published.code()).isEqualTo(2);
      assertThat(published.err()).contains("HARBOUR_SECRET").doesNotContain("s3cr3t");
      assertThat(asked).isEmpty();
    } finally {
      theirs.stop(0);
    }
  }

  private Shell.Result vine(Map<String, String> environment, String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT.resolve("vine").toString()));
    command.addAll(List.of(words));
    return Shell.run(work, environment, command);
  }
}
