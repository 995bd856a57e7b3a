package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import org.junit.jupiter.api.Test;

/** Starting, stopping, and what can be in the way. */
class CellarTest {
  @Test
  void aSecondStartFindsTheFirstAndStaleFilesDoNoHarm() throws Exception {
    try (Portal portal = Portal.start()) {
      String data = portal.data.toString();
      assertThat(portal.password).isNotBlank();

      Shell.Result second = Portal.cellar("start", "--detach", "--json", "--data", data);
      assertThat(second.code()).isZero();
      assertThat(Portal.json(second.out()).path("url").asText()).isEqualTo(portal.url);
      assertThat(Portal.json(second.out()).path("password").isNull()).as("shown once").isTrue();
      assertThat(Portal.cellar("status", "--data", data).out())
          .contains("running at " + portal.url);

      String port = portal.url.substring(portal.url.lastIndexOf(':') + 1);
      Shell.Result taken =
          Portal.cellar("start", "--detach", "--port", port, "--data", data + "-other");
      assertThat(taken.code()).isEqualTo(1);
      assertThat(taken.err()).contains("port " + port + " is taken by another program");
      Portal.cellar("stop", "--data", data + "-other");

      assertThat(Portal.cellar("stop", "--data", data).code()).isZero();
      assertThat(Portal.cellar("status", "--data", data).code()).isEqualTo(3);
      // As a crash leaves them: process numbers that belong to somebody else now.
      Files.writeString(
          portal.data.resolve("service.pid"), Long.toString(ProcessHandle.current().pid()));
      portal.restart();
      assertThat(portal.send("GET", "/api/v1/projects/main", portal.token).statusCode())
          .isEqualTo(200);
    }
  }

  @Test
  void wrongWordsAreRefused() {
    assertThat(Portal.cellar("strat").code()).isEqualTo(2);
    assertThat(Portal.cellar("start", "--prot", "1").err()).contains("“--prot” is not understood");
    assertThat(Portal.cellar("start", "--port", "http").err())
        .contains("--port takes a port number");
  }
}
