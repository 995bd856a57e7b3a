package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.FrameLocator;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;

/**
 * The HTML that test frameworks and coverage tools write by themselves works here as on any server,
 * with and without an origin of its own, beside the portal and alone.
 */
@OnSharedPortal
class ReportsTest {
  private static Browsing browsing;
  private static Page framing;
  private final List<String> heard = new ArrayList<>();
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  @BeforeAll
  static void open() {
    browsing = new Browsing();
    framing = browsing.signedIn(Portal.shared(), "/main/runs");
  }

  @AfterAll
  static void close() {
    browsing.close();
  }

  @ParameterizedTest(name = "{0}")
  @CsvFileSource(resources = "/reports/reports.csv", numLinesToSkip = 1)
  void theirScriptsRunWithoutErrors(
      String report, String index, String shown, @Nullable String allowed) throws IOException {
    Path folder = unpacked(report);
    Files.writeString(
        work.resolve("r.xml"), "<testsuite name='s'><testcase name='a'/></testsuite>");
    String stream = "reports/" + report;
    Shell.Result pushed =
        portal.vine(
            work,
            "push",
            "r.xml",
            "--stream",
            stream,
            "--bundle",
            folder.toString(),
            "--title",
            report,
            "--index",
            index);
    assertThat(pushed.code()).as(pushed.err()).isZero();
    JsonNode bundle = portal.get("/api/v1/projects/main/bundles/latest?stream=" + stream);
    assertThat(bundle.path("ownOrigin").asBoolean()).isTrue();
    String own = bundle.path("url").asText();
    String shared = own.replaceFirst("//b[0-9-]+\\.localhost:", "//127.0.0.1:");
    Page page = listening(framing.context().newPage());
    page.navigate(portal.url + "/main/latest-bundle?stream=" + stream);
    FrameLocator frame = page.frameLocator("iframe");
    shows(frame.locator(":root"), shown);
    for (String url : List.of(own, shared)) {
      page.navigate(url);
      shows(page.locator(":root"), shown);
    }
    page.close();
    assertThat(heard.stream().filter(error -> !isKnown(error, allowed)))
        .as("what consoles said")
        .isEmpty();
  }

  private Page listening(Page page) {
    page.onConsoleMessage(
        message -> {
          if (message.type().equals("error") && !isFromElsewhere(message.text())) {
            heard.add(page.url() + ": " + message.text());
          }
        });
    page.onPageError(error -> heard.add(page.url() + ": " + error));
    page.onRequestFailed(
        request -> {
          if (!request.url().startsWith("https://")) {
            heard.add(request.url() + ": " + request.failure());
          }
        });
    return page;
  }

  /** What goes wrong on any server that is not on the internet, or only without an origin. */
  private static boolean isKnown(String error, @Nullable String allowed) {
    return allowed != null && Pattern.compile(allowed).matcher(error).find();
  }

  /** Some want a typeface or a chart's script from the internet; no report gets anything there. */
  private static boolean isFromElsewhere(String error) {
    return error.matches("(?s)Loading the (script|stylesheet|font) 'https://.*");
  }

  private static void shows(Locator root, String text) {
    assertThat(root).containsText(text);
    root.page().waitForLoadState();
  }

  private Path unpacked(String report) throws IOException {
    Path folder = Files.createDirectories(work.resolve(report));
    try (InputStream in = getClass().getResourceAsStream("/reports/" + report + ".zip");
        ZipInputStream zip = new ZipInputStream(in)) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        Path file = folder.resolve(entry.getName());
        if (!entry.isDirectory()) {
          Files.createDirectories(file.getParent());
          Files.copy(zip, file);
        }
      }
    }
    return folder;
  }
}
