package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ReducedMotion;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** A real browser; every error of a page's scripts counts. */
final class Browsing implements AutoCloseable {
  private final Playwright playwright =
      Playwright.create(
          new Playwright.CreateOptions().setEnv(Map.of("PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD", "1")));
  private final Browser browser =
      playwright
          .chromium()
          .launch(
              new BrowserType.LaunchOptions()
                  .setExecutablePath(Path.of("/usr/bin/chromium"))
                  .setArgs(
                      List.of("--no-sandbox", "--disable-gpu", "--disable-background-networking")));
  private final List<String> errors = new ArrayList<>();

  static {
    // Other tests run beside this one, on two processors.
    PlaywrightAssertions.setDefaultAssertionTimeout(45_000);
  }

  /** A page of somebody who is not signed in, in a browser of their own. */
  Page page() {
    BrowserContext context =
        browser.newContext(
            new Browser.NewContextOptions()
                .setViewportSize(1280, 800)
                .setReducedMotion(ReducedMotion.REDUCE));
    // Two lanes of tests, a portal and two browsers may want the same two cores.
    context.setDefaultNavigationTimeout(90_000);
    Page page = context.newPage();
    page.onPageError(errors::add);
    return page;
  }

  /** A page of the administrator. */
  Page signedIn(Portal portal, String path) {
    Page page = page();
    page.navigate(portal.url + path);
    signIn(portal, page);
    return page;
  }

  static void signIn(Portal portal, Page page) {
    page.getByLabel("Name").fill(portal.user);
    page.getByLabel("Password").fill(portal.password);
    page.keyboard().press("Enter");
    assertThat(page.getByRole(AriaRole.NAVIGATION, new Page.GetByRoleOptions().setName("Areas")))
        .isVisible();
  }

  /** Nothing that a program can find stands in the way of a screen reader. */
  static void isAccessible(Page page) {
    assertThat(
            new AxeBuilder(page)
                .analyze().getViolations().stream()
                    .map(v -> v.getId() + ": " + v.getNodes().get(0).getHtml())
                    .toList())
        .isEmpty();
  }

  void noErrors() {
    assertThat(errors).isEmpty();
  }

  @Override
  public void close() {
    browser.close();
    playwright.close();
  }
}
