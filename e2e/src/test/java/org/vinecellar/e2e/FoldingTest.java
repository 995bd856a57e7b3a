package org.vinecellar.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.microsoft.playwright.Page;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Names that are others in each run: told by the command and the page, and folded by both. */
@OnSharedPortal
class FoldingTest {
  private static final String STREAM = "folding/nightly";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private Shell.Result vine(String... words) {
    List<String> command = new ArrayList<>(List.of(Shell.ROOT + "/vine"));
    command.addAll(List.of(words));
    return Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), command);
  }

  private void push(int run) throws IOException {
    StringBuilder xml = new StringBuilder("<testsuite name='quay'>");
    for (int i = 0; i < 30; i++) {
      xml.append(
          "<testcase classname='org.skerrow.GuestTest' name='sells[g-" + run + "-" + i + "]'/>");
    }
    xml.append("<testcase classname='org.skerrow.GuestTest' name='=HYPERLINK(1)' time='0.2'/>");
    Files.writeString(work.resolve("r.xml"), xml + "</testsuite>");
    String at = "2026-09-0" + run + "T03:00:00Z";
    assertThat(vine("push", "r.xml", "--stream", STREAM, "--run", "run-" + run, "--at", at).code())
        .isZero();
  }

  private long count() {
    return vine("export", "tests", "--stream", STREAM, "--format", "ndjson").out().lines().count();
  }

  @Test
  void theyAreToldAndFolded() throws IOException {
    for (int run = 1; run <= 4; run++) {
      push(run);
    }
    Shell.Result told = vine("fold", "--stream", STREAM);
    assertThat(told.out())
        .contains("org.skerrow.GuestTest#sells[…]", "120 cases, seen at #3, not folded");
    String number = told.out().substring(0, told.out().indexOf(' '));
    assertThat(vine("fold", number).out()).contains("120 cases, seen at #3, folded by ");
    push(5);
    assertThat(count()).isEqualTo(2);
    assertThat(vine("history", "org.skerrow.GuestTest#sells[…]", "--stream", STREAM).out())
        .contains("+ + + + +");
    assertThat(vine("export", "renames", "--stream", STREAM, "--format", "ndjson").out()).isEmpty();

    String table =
        portal
            .send(
                "GET",
                "/api/v1/projects/main/tests/ranked.csv?by=newest&stream=" + STREAM,
                portal.token)
            .body();
    assertThat(table).startsWith("test,variant,stream,ran,").contains("GuestTest#=HYPERLINK(1)");

    try (Browsing browsing = new Browsing()) {
      Page page = browsing.signedIn(portal, "/main/tests?show=made-up&stream=folding%2Fnightly");
      assertThat(page.getByText("150 cases in folding/nightly")).isVisible();
      Browsing.isAccessible(page);
      page.getByText("sells[…]").click();
      assertThat(page.getByText("of the latest 5 runs")).isVisible();
      page.getByText("Part again").click();
      assertThat(page.getByText("Take for one test")).isVisible();
    }
    assertThat(vine("fold", number).code()).isZero();
    JsonNode apart = Portal.json(vine("fold", number, "--apart", "--json").out());
    assertThat(apart.path("foldedInto").isNull()).isTrue();
    Shell.Result wrong = vine("fold", "999999");
    assertThat(wrong.code()).isEqualTo(5);
    assertThat(wrong.err()).contains("no made-up names were recognised under the number 999999");
    assertThat(vine("fold", "--apart").code()).isEqualTo(2);
  }
}
