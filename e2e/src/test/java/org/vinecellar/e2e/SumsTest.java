package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Sums over runs, as a program asks for them: what they count is found under their filters. */
@OnSharedPortal
class SumsTest {
  private static final String SUMS = "/api/v1/projects/main/sums/";
  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private void push(String stream, String at, String team, int passed, int failed)
      throws IOException {
    StringBuilder xml = new StringBuilder("<testsuite name='quay'>");
    for (int i = 0; i < passed + failed; i++) {
      xml.append("<testcase classname='org.skerrow.QuayTest' name='moors").append(i).append("'>");
      xml.append(i < failed ? "<failure message='no rope'/>" : "").append("</testcase>");
    }
    xml.append("<system-out>").append(stream).append(at).append("</system-out></testsuite>");
    Files.writeString(work.resolve("r.xml"), xml);
    List<String> words =
        List.of(
            Shell.ROOT + "/vine",
            "push",
            "r.xml",
            "--stream",
            stream,
            "--at",
            at,
            "--label",
            "team=" + team);
    assertThat(
            Shell.run(work, Map.of("VINE_URL", portal.url, "VINE_TOKEN", portal.token), words)
                .code())
        .isZero();
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  @Test
  void sumsLeadToTheirRuns() throws IOException {
    push("sums/nightly", "2026-09-07T03:00:00Z", "fares", 9, 1);
    push("sums/nightly", "2026-09-07T15:00:00Z", "fares", 10, 0);
    push("sums/nightly", "2026-09-09T03:00:00Z", "moorings", 4, 0);
    String of = "?filter=" + encoded("stream eq \"sums/nightly\"") + "&by=label.team";
    JsonNode trend = portal.get(SUMS + "trend" + of + "&from=2026-09-07&to=2026-09-09&step=day");
    JsonNode fares = trend.path("series").get(0);
    assertThat(fares.path("values").get(0).asText()).isEqualTo("fares");
    assertThat(fares.path("points")).hasSize(3);
    assertThat(fares.path("points").get(1).path("sum").isNull()).as("a gap").isTrue();
    JsonNode first = fares.path("points").get(0);
    assertThat(first.path("sum").path("runs").asInt()).isEqualTo(2);
    assertThat(first.path("sum").path("red").asInt()).isEqualTo(1);
    assertThat(first.path("sum").path("passRate").path("rate").asDouble()).isEqualTo(0.95);
    JsonNode runs =
        portal.get("/api/v1/projects/main/runs?filter=" + encoded(first.path("runs").asText()));
    assertThat(runs).hasSize(2);

    JsonNode breakdown =
        portal.get(SUMS + "breakdown" + of + "&from=2026-09-09&to=2026-09-09&minimum=0.98");
    assertThat(breakdown.path("parts")).hasSize(1);
    JsonNode part = breakdown.path("parts").get(0);
    assertThat(part.path("standing").asText()).isEqualTo("holds");
    assertThat(part.path("before").isNull()).isTrue();
    assertThat(part.path("change").isNull()).as("not known before").isTrue();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "trend?days=0 | days is 0; it goes from 1 to 7320",
        "trend?days=7000&step=hour | take longer steps, or a shorter period",
        "trend?step=month | step is “month”; it can be hour, day, week",
        "trend?from=2026-09-01 | say days, or both from and to",
        "trend?from=2026-09-31&to=2026-10-01 | from is “2026-09-31”; write a day as in 2026-11-29",
        "trend?from=2026-09-02&to=2026-09-01 | the period ends on 2026-09-01, before it begins on 2026-09-02",
        "trend?from=%2B999999999-12-31&to=%2B999999999-12-31 | is no day that a run could begin",
        "breakdown?from=-4800-01-01&to=-4800-01-02 | is no day that a run could begin",
        "trend?by=team | runs are told apart by “stream”, “branch” or a label such as “label.team”",
        "breakdown?by=stream&by=branch&by=label.a&by=label.b | there can be 3",
        "breakdown?minimum=98 | minimum is 98.0; it goes from 0 to 1, as in 0.98",
        "breakdown?filter=name+eq+3 | a run has no “name”",
      })
  void whatCannotBeToldIsRefused(String path, String detail) {
    HttpResponse<String> answer = portal.send("GET", SUMS + path, portal.token);
    assertThat(answer.statusCode()).as(answer.body()).isEqualTo(400);
    assertThat(Portal.json(answer.body()).path("detail").asText()).contains(detail);
  }
}
