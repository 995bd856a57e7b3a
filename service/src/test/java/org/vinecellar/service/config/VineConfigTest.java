package org.vinecellar.service.config;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Every key, its default, and that the table of the documentation has it. */
class VineConfigTest {
  @Test
  void defaults() {
    VineConfig config = Configured.by(Map.of());

    assertThat(config.upload().concurrent()).isEqualTo(4);
    assertThat(config.upload().maxFileBytes()).isEqualTo(2L << 30);
    assertThat(config.run().silence()).isEqualTo(Duration.ofMinutes(30));
    assertThat(config.session().length()).isEqualTo(Duration.ofDays(7));
    assertThat(config.session().secureCookie()).isEmpty();
    assertThat(config.first().user()).isEqualTo("admin");
    assertThat(config.first().project()).isEqualTo("main");
    assertThat(config.first().projectName()).isEqualTo("Main");
    assertThat(config.first().accessFile()).isEmpty();
    assertThat(config.client().jar()).isEqualTo("client/target/vine.jar");
  }

  @Test
  void environmentVariables() {
    VineConfig config =
        Configured.by(
            Map.of(
                "VINE_UPLOAD_CONCURRENT", "2",
                "VINE_UPLOAD_MAX_FILE_BYTES", "1000",
                "VINE_RUN_SILENCE", "90S",
                "VINE_SESSION_LENGTH", "12H",
                "VINE_SESSION_SECURE_COOKIE", "true",
                "VINE_FIRST_USER", "ada",
                "VINE_FIRST_PROJECT", "skerrow",
                "VINE_FIRST_PROJECT_NAME", "Skerrow Line",
                "VINE_FIRST_ACCESS_FILE", "/run/first.json",
                "VINE_CLIENT_JAR", "/opt/vine.jar"));

    assertThat(config.upload().concurrent()).isEqualTo(2);
    assertThat(config.upload().maxFileBytes()).isEqualTo(1000);
    assertThat(config.run().silence()).isEqualTo(Duration.ofSeconds(90));
    assertThat(config.session().length()).isEqualTo(Duration.ofHours(12));
    assertThat(config.session().secureCookie()).hasValue(true);
    assertThat(config.first().user()).isEqualTo("ada");
    assertThat(config.first().project()).isEqualTo("skerrow");
    assertThat(config.first().projectName()).isEqualTo("Skerrow Line");
    assertThat(config.first().accessFile()).hasValue("/run/first.json");
    assertThat(config.client().jar()).isEqualTo("/opt/vine.jar");
  }

  @Test
  void aValueThatIsNoneIsRefusedByItsName() {
    assertThatThrownBy(() -> Configured.by(Map.of("VINE_RUN_SILENCE", "soon")))
        .hasMessageContaining("vine.run.silence");
  }

  @Test
  void theDocumentationHasEveryVariableThatIsRead() throws IOException {
    String table = Files.readString(Path.of("../docs/CONFIGURATION.md"));
    String properties = Files.readString(Path.of("src/main/resources/application.properties"));

    Stream.concat(
            java.util.regex.Pattern.compile("\\$\\{(VINE_[A-Z_]+)")
                .matcher(properties)
                .results()
                .map(found -> found.group(1)),
            Stream.of(
                "VINE_UPLOAD_CONCURRENT",
                "VINE_UPLOAD_MAX_MEGABYTES",
                "VINE_UPLOAD_LONGEST_WAIT",
                "VINE_UPLOAD_WAITING",
                "VINE_UPLOAD_MAX_FILE_BYTES",
                "VINE_DB_PASSWORD_FILE",
                "VINE_DATA_DIR",
                "VINE_DATA_DATABASE",
                "VINE_DATA_RESERVE_MEGABYTES",
                "VINE_DOOR_REQUESTS",
                "VINE_DOOR_BODIES",
                "VINE_DOOR_BODIES_OF_ADDRESS",
                "VINE_DOOR_BODY_IDLE",
                "VINE_DOOR_DOWNLOADS",
                "VINE_DOOR_DOWNLOADS_OF_ADDRESS",
                "VINE_DOOR_WRITE_IDLE",
                "VINE_DOOR_WATCHERS",
                "VINE_PUBLIC_URL",
                "VINE_TRUSTED_PROXIES",
                "VINE_METRICS_TOKEN",
                "VINE_METRICS_TOKEN_FILE",
                "VINE_RUN_SILENCE",
                "VINE_SESSION_LENGTH",
                "VINE_SESSION_SECURE_COOKIE",
                "VINE_FIRST_USER",
                "VINE_FIRST_PROJECT",
                "VINE_FIRST_PROJECT_NAME",
                "VINE_FIRST_ACCESS_FILE",
                "VINE_CLIENT_JAR"))
        .forEach(variable -> assertThat(table).contains("`" + variable + "`"));
  }
}
