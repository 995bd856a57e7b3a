package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.vinecellar.client.settings.PipelineEnvironment;

/** What the documents tell people to type works when it is typed. */
@OnSharedPortal
class DocsTest {
  private static final Pattern BLOCK = Pattern.compile("(?ms)^```([a-z]*)\\n(.*?)^```$");
  private static final Pattern LINK = Pattern.compile("\\]\\(([^)#]+)(?:#[^)]*)?\\)");
  private static final Path CORPUS = Shell.ROOT.resolve("core/src/test/resources/corpus");
  private @TempDir Path work;

  static List<Path> pages() throws IOException {
    try (Stream<Path> docs = Files.list(Shell.ROOT.resolve("docs"))) {
      List<Path> pages =
          new ArrayList<>(docs.filter(page -> page.toString().endsWith(".md")).sorted().toList());
      pages.add(Shell.ROOT.resolve("README.md"));
      pages.add(Shell.ROOT.resolve("CONTRIBUTING.md"));
      return pages;
    }
  }

  /** What a job may have lying around, and a Go that says what a real one said once. */
  private void prepare() throws IOException {
    for (String folder : List.of("reports", "target/surefire-reports", "shots", "site", "bin")) {
      Files.createDirectories(work.resolve(folder));
    }
    String xml = "<testsuite name='%s'><testcase name='a'/></testsuite>";
    Files.writeString(work.resolve("reports/a.xml"), xml.formatted("A"));
    Files.writeString(work.resolve("reports/b.xml"), xml.formatted("B"));
    for (String jdk : List.of("17", "21")) {
      Path directory = Files.createDirectories(work.resolve("reports").resolve(jdk));
      Files.writeString(directory.resolve("a.xml"), xml.formatted("A"));
    }
    for (String day : List.of("2024-03-01", "2024-03-02")) {
      Path folder = Files.createDirectories(work.resolve("archive/booking-api/monthly/" + day));
      Files.writeString(folder.resolve("api.xml"), xml.formatted(day));
    }
    Files.writeString(work.resolve("target/surefire-reports/c.xml"), xml.formatted("C"));
    Files.writeString(work.resolve("shots/quay.png"), "not really a picture");
    Files.writeString(work.resolve("site/index.html"), "<h1>Coverage</h1>");
    Files.writeString(work.resolve("manual.csv"), "Title,Verdict\nmoor at Holm,ok\n");
    Path go =
        Files.writeString(work.resolve("bin/go"), "#!/bin/sh\ncat " + CORPUS + "/go/*.json\n");
    Path vine =
        Files.writeString(
            work.resolve("bin/vine"), "#!/bin/sh\nexec " + Shell.ROOT + "/vine \"$@\"\n");
    Path build = Files.writeString(work.resolve("gradlew"), "#!/bin/sh\ntouch reports/*.xml\n");
    for (Path program : List.of(go, vine, build)) {
      assertThat(program.toFile().setExecutable(true)).isTrue();
    }
    Files.copy(vine, work.resolve("vine"), StandardCopyOption.COPY_ATTRIBUTES);
    // A page may show a file that its commands use.
    Matcher blocks = BLOCK.matcher(Files.readString(Shell.ROOT.resolve("docs/EVENTS.md")));
    while (blocks.find()) {
      if (blocks.group(1).equals("json")) {
        Files.writeString(work.resolve("events.ndjson"), blocks.group(2));
      }
    }
  }

  @ParameterizedTest
  @MethodSource("pages")
  void everyCommandLineOfAPageWorks(Path page) throws IOException {
    prepare();
    Portal portal = Portal.shared();
    Matcher blocks = BLOCK.matcher(Files.readString(page));
    while (blocks.find()) {
      if (!blocks.group(1).equals("sh")) {
        continue;
      }
      String script = blocks.group(2);
      Shell.Result result =
          Shell.run(
              work,
              Map.of(
                  "VINE_URL",
                  portal.url,
                  "VINE_TOKEN",
                  portal.token,
                  "VINE_SPOOL",
                  work.resolve("spool").toString(),
                  "COMMIT",
                  "c0ffee",
                  "JOB_URL",
                  "https://ci.skerrow.example/7",
                  "PATH",
                  work.resolve("bin") + ":" + System.getenv("PATH")),
              List.of("bash", "-euo", "pipefail", "-c", script));
      assertThat(result.code())
          .as("%s: %s%n%s%n%s", page, script, result.out(), result.err())
          .isZero();
    }
  }

  /** The listener, as the page says: from the portal, in a build of its own that tries again. */
  @Test
  void theListenerOfAPortalTellsOfABuildAndItsReruns() throws IOException {
    Portal portal = Portal.shared();
    String page = Files.readString(Shell.ROOT.resolve("docs/PIPELINES.md"));
    Matcher blocks = BLOCK.matcher(page);
    String plugin = "";
    while (blocks.find()) {
      plugin = blocks.group(1).equals("xml") ? blocks.group(2) : plugin;
    }
    Path sample = Shell.ROOT.resolve("e2e/src/test/resources/listener");
    Files.writeString(
        work.resolve("pom.xml"),
        Files.readString(sample.resolve("pom.xml")).replace("<!-- plugin -->", plugin));
    Path tests = Files.createDirectories(work.resolve("src/test/java"));
    Files.copy(sample.resolve("WaveringTest.txt"), tests.resolve("WaveringTest.java"));
    Map<String, String> environment =
        Map.of(
            "VINE_URL",
            portal.url,
            "VINE_TOKEN",
            portal.token,
            "VINE_SPOOL",
            work.resolve("spool").toString(),
            "VINE_STREAM",
            "docs/listener",
            "VINE_COMMAND",
            Shell.ROOT.resolve("vine").toString(),
            "VINE_PIPE_LOG",
            work.resolve("pipe.log").toString());
    String script =
        "curl -fsS -o vine-junit-listener.jar \"$VINE_URL/client/vine-junit-listener.jar\""
            + " && mvn -q -B -ntp test -Dsurefire.rerunFailingTestsCount=2";
    Shell.Result build =
        Shell.run(work, environment, List.of("bash", "-euo", "pipefail", "-c", script));
    assertThat(build.code()).as("%s%n%s", build.out(), build.err()).isZero();
    var run = portal.get("/api/v1/projects/main/runs?stream=docs/listener");
    assertThat(run).as(Files.readString(work.resolve("pipe.log"))).hasSize(1);
    var counts = run.path(0).path("counts");
    assertThat(counts.path("passed").asInt()).isEqualTo(2);
    assertThat(counts.path("failed").asInt()).isZero();
    assertThat(counts.path("retried").asInt()).isEqualTo(1);
    assertThat(run.path(0).path("open").asBoolean()).isFalse();
  }

  @ParameterizedTest
  @MethodSource("pages")
  void everyLinkOfAPageLeadsSomewhere(Path page) throws IOException {
    Matcher links = LINK.matcher(Files.readString(page));
    while (links.find()) {
      String target = links.group(1);
      if (!target.contains("://")) {
        assertThat(page.resolveSibling(target)).as("a link of %s", page).exists();
      }
    }
  }

  @Test
  void theTableOfVariablesIsTheOneThatIsUsed() throws IOException {
    String page = Files.readString(Shell.ROOT.resolve("docs/PIPELINES.md"));
    PipelineEnvironment.table()
        .forEach(
            (value, variables) ->
                assertThat(page)
                    .contains("| " + value + " | `" + String.join("`, `", variables) + "`"));
  }
}
