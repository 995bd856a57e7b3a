package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.FrameLocator;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A page that a job made works in the console, and cannot get at anything of the portal's. */
@OnSharedPortal
class BundleTest {
  private static final String XML = "<testsuite name='s'><testcase name='a'/></testsuite>";

  /** Tells what it can do, and what happens when it tries what it must not. */
  private static final String SCRIPT =
      """
      const told = (id, text) => { document.getElementById(id).textContent = text; };
      told('script', 'scripts work');
      fetch('data/berths.json').then((r) => r.json()).then((d) => told('data', 'berths: ' + d.berths));
      const tried = (id, work) => { try { told(id, 'GOT ' + work()); } catch (e) { told(id, e.name); } };
      tried('cookie', () => {
        document.cookie = 'vine_session=forged; Domain=localhost';
        document.cookie = 'vine_session=forged; Domain=127.0.0.1';
        return document.cookie;
      });
      tried('parent', () => parent === window ? 'nothing above' : parent.document.body.textContent);
      tried('storage', () => { localStorage.setItem('kept', '1'); return localStorage.length; });
      tried('database', () => { indexedDB.open('other'); return 'a database'; });
      for (const id of ['api', 'image', 'other'])
        told(id, 'waiting');
      fetch('OTHER').then((r) => r.text()).then((t) => told('other', 'GOT ' + t), (e) => told('other', e.name));
      fetch('PORTAL/api/v1/projects', { credentials: 'include' })
        .then((r) => r.text()).then((t) => told('api', 'GOT ' + t), (e) => told('api', e.name));
      const image = new Image();
      image.onload = () => told('image', 'GOT an image');
      image.onerror = () => told('image', 'blocked');
      image.src = 'PORTAL/favicon.svg';
      """;

  private static final List<String> IDS =
      List.of("script", "data", "cookie", "parent", "storage", "database", "api", "image", "other");

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Path bundle() throws IOException {
    return bundle("http://127.0.0.1:1/");
  }

  /**
   * A folder with a page.
   *
   * @param other the address of another bundle's page, which it tries to read
   */
  private Path bundle(String other) throws IOException {
    Path folder = Files.createDirectories(work.resolve("report/data")).getParent();
    StringBuilder page = new StringBuilder("<!doctype html><title>Quay report</title>");
    page.append("<link rel=stylesheet href=style.css><h1>Quay report</h1>");
    for (String id : IDS) {
      page.append("<p id=").append(id).append("></p>");
    }
    Files.writeString(folder.resolve("start.html"), page + "<script src=app.js></script>");
    Files.writeString(
        folder.resolve("app.js"), SCRIPT.replace("PORTAL", portal.url).replace("OTHER", other));
    Files.writeString(folder.resolve("style.css"), "h1 { color: rgb(1, 2, 3) }");
    Files.writeString(folder.resolve("data/berths.json"), "{\"berths\": 42}");
    Files.writeString(work.resolve("r.xml"), XML);
    return folder;
  }

  private String pushed(String stream, Path folder) throws IOException {
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
            "Quay report",
            "--index",
            "start.html");
    assertThat(pushed.code()).as(pushed.err()).isZero();
    return portal.get("/api/v1/projects/main/bundles/latest?stream=" + stream).path("url").asText();
  }

  @Test
  void itsScriptsAndStylesWorkAndReachNothing() throws IOException {
    String other = pushed("bundles-other", bundle());
    String own = pushed("bundles", bundle(other));
    String shared = own.replaceFirst("//b[0-9-]+\\.localhost:", "//127.0.0.1:");
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.page();
      BrowserContext context = page.context();
      page.navigate(portal.url + "/main/latest-bundle?stream=bundles");
      Browsing.signIn(portal, page);
      assertThat(page.getByRole(AriaRole.TAB, new Page.GetByRoleOptions().setName("Quay report")))
          .hasAttribute("aria-selected", "true");
      FrameLocator frame = page.frameLocator("iframe");
      check(frame.locator(":root"), true);
      assertThat(frame.locator("#parent")).hasText("SecurityError");
      assertThat(page.locator("iframe")).hasAttribute("src", own);

      // Also where nobody put a sandbox around it, and where it has no origin.
      for (String url : List.of(own, shared)) {
        Page alone = context.newPage();
        alone.navigate(url);
        check(alone.locator(":root"), url.equals(own));
      }
      assertThat(
              context.cookies(portal.url).stream()
                  .filter(c -> c.name.equals("vine_session"))
                  .map(c -> c.value.length() > 20))
          .as("there was a cookie to be had, and none beside it")
          .containsExactly(true);

      // A bundle under the name of another one's.
      Page wrong = context.newPage();
      wrong.navigate(own.replaceFirst("//[^/]*", "//" + URI.create(other).getAuthority()));
      assertThat(wrong.locator("body")).containsText("the place of another bundle");
    }
  }

  private static void check(Locator page, boolean own) {
    assertThat(page.locator("#script")).hasText("scripts work");
    assertThat(page.locator("#data")).hasText("berths: 42");
    assertThat(page.locator("h1")).hasCSS("color", "rgb(1, 2, 3)");
    assertThat(page.locator("#cookie")).hasText("GOT ");
    assertThat(page.locator("#storage")).hasText("GOT 1");
    assertThat(page.locator("#database")).hasText(own ? "GOT a database" : "SecurityError");
    assertThat(page.locator("#api")).hasText("TypeError");
    assertThat(page.locator("#image")).hasText("blocked");
    assertThat(page.locator("#other")).hasText("TypeError");
  }

  @Test
  void whatAPageNamesFromItsRootIsInItsBundle() throws IOException {
    Path folder = bundle();
    Files.writeString(
        folder.resolve("start.html"),
        "<!doctype html><title>Quay report</title><link rel=stylesheet href=/data/root.css>"
            + "<h1>Quay report</h1><script src=/data/root.js></script>");
    Files.writeString(folder.resolve("data/root.css"), "@import '/data/more.css';");
    Files.writeString(folder.resolve("data/more.css"), "h1 { color: rgb(1, 2, 3) }");
    Files.writeString(
        folder.resolve("data/root.js"), "document.body.append(document.compatMode, 'from root');");
    String url = pushed("bundles-root", folder);
    try (Browsing browsing = new Browsing()) {
      Page page = browsing.page();
      page.navigate(url);
      assertThat(page.locator("body")).containsText("CSS1Compatfrom root");
      assertThat(page.locator("h1")).hasCSS("color", "rgb(1, 2, 3)");
      browsing.noErrors();
    }
  }

  private static byte[] zip(String name, int bytes) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(out)) {
      zip.putNextEntry(new ZipEntry("index.html"));
      zip.write("<p>hello</p>".getBytes(StandardCharsets.UTF_8));
      zip.putNextEntry(new ZipEntry(name));
      zip.write(new byte[bytes]);
    }
    return out.toByteArray();
  }

  private String refused(byte[] zip) throws IOException {
    Files.write(work.resolve("b.zip"), zip);
    Files.writeString(work.resolve("r.xml"), XML);
    return portal
        .curl(
            work,
            "-F",
            "stream=bundles-refused",
            "-F",
            "file=@r.xml",
            "-F",
            "bundle=@b.zip",
            portal.url + "/api/v1/projects/main/uploads")
        .out();
  }

  @Test
  void hostileZipFilesAreRefusedAndNothingIsKept() throws IOException {
    assertThat(refused(zip("../../etc/passwd", 3)))
        .contains("name leads elsewhere, or is none: “../../etc/passwd”");
    assertThat(refused(zip("/etc/passwd", 3))).contains("name leads elsewhere");
    assertThat(refused(zip("a\\..\\b", 3))).contains("name leads elsewhere");
    assertThat(refused(zip("zeros", 80 << 20))).contains("unpacks to more than 200 times its size");
    assertThat(refused("no zip".getBytes(StandardCharsets.UTF_8)))
        .contains("the bundle is no zip file");
    byte[] whole = zip("x", 100_000);
    assertThat(refused(java.util.Arrays.copyOf(whole, whole.length / 2)))
        .contains("\"type\":\"urn:vine-cellar:problem:");
    assertThat(portal.get("/api/v1/projects/main/runs?stream=bundles-refused")).isEmpty();

    assertThat(
            portal
                .vine(work, "push", "r.xml", "--stream", "bundles-refused", "--bundle", "nowhere")
                .code())
        .isEqualTo(3);
  }

  @Test
  void addressesOfBundlesCannotBeGuessedOrChanged() throws IOException {
    portal.vine(
        work,
        "push",
        "r.xml",
        "--stream",
        "bundles-3",
        "--bundle",
        bundle().toString(),
        "--index",
        "start.html");
    JsonNode latest = portal.get("/api/v1/projects/main/bundles/latest?stream=bundles-3");
    String url = latest.path("url").asText();
    assertThat(status(url)).isEqualTo(200);
    assertThat(status(url.replace("start.html", "none.html"))).isEqualTo(404);
    long id = latest.path("id").asLong();
    assertThat(status(url.replace("." + id + ".", "." + (id - 1) + "."))).isEqualTo(404);
    assertThat(status(url.replaceFirst("/[^/]+/start", "/1.1.99999999999.abc/start")))
        .isEqualTo(404);
    assertThat(portal.send("GET", "/api/v1/projects/main/bundles?run=1", null).statusCode())
        .isEqualTo(401);
  }

  private int status(String url) {
    // Names under localhost are found by browsers and by curl, and not by every resolver.
    String code =
        Shell.run(
                work,
                java.util.Map.of(),
                List.of("curl", "-s", "-o", "/dev/null", "-w", "%{http_code}", url))
            .out();
    return Integer.parseInt(code.strip());
  }
}
