package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What tests leave behind comes with their results, and nothing in it can run here. */
@OnSharedPortal
class AttachmentTest {
  private static final String SCRIPT =
      "<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>";

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private HttpResponse<String> content(long run, JsonNode attachment, String range) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(
                URI.create(
                    portal.url
                        + "/api/v1/projects/main/runs/"
                        + run
                        + "/attachments/"
                        + attachment.path("id").asText()))
            .header("Authorization", "Bearer " + portal.token);
    if (range != null) {
      request.header("Range", range);
    }
    return portal.send(request.build());
  }

  private static String header(HttpResponse<String> response, String name) {
    return String.join(", ", response.headers().allValues(name));
  }

  @Test
  void whatLiesAboutItselfGoesOutAsTextAndInPiecesWhenAsked() throws IOException {
    Files.createDirectories(work.resolve("shots"));
    Files.writeString(work.resolve("shots/quay.png"), SCRIPT);
    Files.write(work.resolve("shots/core.dump"), new byte[] {0, 1, 2, 3});
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='s'><testcase name='a'><system-out>[[ATTACHMENT|shots/quay.png]]\n"
            + "[[ATTACHMENT|shots/core.dump]]\n[[ATTACHMENT|/etc/passwd]]</system-out></testcase>"
            + "</testsuite>");
    Shell.Result pushed = portal.vine(work, "push", "r.xml", "--stream", "attachments/lies");
    assertThat(pushed.code()).as(pushed.err()).isZero();
    assertThat(pushed.err()).contains("1 attachments lie outside of the working directory");

    long run =
        portal
            .get("/api/v1/projects/main/runs?stream=attachments/lies")
            .path(0)
            .path("id")
            .asLong();
    JsonNode all =
        portal
            .get("/api/v1/projects/main/runs/" + run + "/results/1-0")
            .path("attempts")
            .path(0)
            .path("attachments");
    assertThat(all).hasSize(3);
    JsonNode svg = all.path(0);
    assertThat(svg.path("mediaType").asText()).isEqualTo("image/svg+xml");
    assertThat(svg.path("kind").asText()).isEqualTo("text");
    assertThat(all.path(2).path("kept").asBoolean()).as("never sent").isFalse();

    HttpResponse<String> whole = content(run, svg, null);
    assertThat(whole.body()).isEqualTo(SCRIPT);
    assertThat(header(whole, "Content-Type")).isEqualTo("text/plain; charset=utf-8");
    assertThat(header(whole, "Content-Security-Policy")).contains("sandbox");
    assertThat(header(whole, "X-Content-Type-Options")).contains("nosniff");
    HttpResponse<String> piece = content(run, svg, "bytes=1-3");
    assertThat(piece.statusCode()).isEqualTo(206);
    assertThat(piece.body()).isEqualTo("svg");
    assertThat(header(piece, "Content-Range")).isEqualTo("bytes 1-3/" + SCRIPT.length());
    HttpResponse<String> dump = content(run, all.path(1), null);
    assertThat(header(dump, "Content-Type")).isEqualTo("application/octet-stream");
    assertThat(header(dump, "Content-Disposition"))
        .isEqualTo("attachment; filename*=UTF-8''core.dump");
    assertThat(content(run, all.path(2), null).statusCode()).isEqualTo(404);
  }
}
