package org.vinecellar.client.settings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SettingsFileTest {
  private @TempDir Path work;

  private SettingsFile file(String text) throws IOException {
    Files.writeString(work.resolve("vine.yaml"), text);
    return SettingsFile.near(work);
  }

  @Test
  void theNearestOneAboveHoldsUpToTheRepository() throws IOException {
    file("stream: booking-api/nightly\nlabels: {team: fares}\nattach: [shots, logs]\n");
    Path inside = Files.createDirectories(work.resolve("a/b"));

    assertThat(SettingsFile.near(inside).word("stream")).isEqualTo("booking-api/nightly");
    assertThat(SettingsFile.near(inside).labels()).containsEntry("team", "fares");
    assertThat(SettingsFile.near(inside).list("attach")).isEqualTo(List.of("shots", "logs"));

    Files.createDirectory(work.resolve("a/.git"));
    assertThat(SettingsFile.near(inside).word("stream")).isNull();
  }

  @Test
  void theTableOfVariablesCanBeExtended() throws IOException {
    SettingsFile file = file("environment:\n  commit: [OUR_REV, OUR_SHA]\n");
    Map<String, String> environment = Map.of("OUR_SHA", "ours", "GIT_COMMIT", "theirs");

    assertThat(new PipelineEnvironment(environment, file).value("commit")).isEqualTo("ours");
    assertThat(new PipelineEnvironment(environment, SettingsFile.NONE).value("commit"))
        .isEqualTo("theirs");
    assertThat(
            new PipelineEnvironment(
                    Map.of(
                        "GITHUB_SERVER_URL", "https://host",
                        "GITHUB_REPOSITORY", "line/api",
                        "GITHUB_RUN_ID", "7"),
                    file)
                .value("build-url"))
        .isEqualTo("https://host/line/api/actions/runs/7");
  }

  /** What comes with a repository must not publish whatever the environment holds. */
  @ParameterizedTest
  @CsvSource({
    "SKERROW_REVISION, true",
    "OUR_BUILD_URL, true",
    "BRANCH_NAME, true",
    "VINE_TOKEN, false",
    "AWS_SECRET_ACCESS_KEY, false",
    "TOKEN_COMMIT, false",
    "HOME, false",
    "ALLOWED_BY_US, true"
  })
  void onlyVariablesThatTellOfRevisionsAreAskedFor(String variable, boolean allowed)
      throws IOException {
    SettingsFile file = file("environment:\n  commit: [" + variable + "]\n");
    Map<String, String> environment =
        Map.of(variable, "value", "VINE_ALLOWED_VARIABLES", "OTHER,ALLOWED_BY_US");
    PipelineEnvironment pipeline = new PipelineEnvironment(environment, file);
    if (allowed) {
      assertThat(pipeline.value("commit")).isEqualTo("value");
    } else {
      assertThatThrownBy(() -> pipeline.value("commit"))
          .hasMessageContaining("VINE_ALLOWED_VARIABLES=" + variable);
    }
  }

  @ParameterizedTest
  @CsvSource({"/etc", "../outside", "a/../../b", "~/.ssh"})
  void aRepositoryAttachesOnlyItsOwn(String directory) {
    assertThatThrownBy(() -> file("attach: [\"" + directory + "\"]\n"))
        .hasMessageContaining("leads out of the repository");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "strem: a | has the setting “strem”, which does not exist; there are attach, branch,",
        "token: vine_x | A token belongs into VINE_TOKEN, not into a file",
        "stream: [a] | “stream” takes one value",
        "labels: x | “labels” takes lines of “name: value” below it",
        "spool: /var/spool/vine | leads out of the repository; set VINE_SPOOL for that",
        "spool: a/../../b | leads out of the repository",
        "attach: ['a/*', ~/.ssh/*] | leads out of the repository; give --attach for that",
        "environment: {comit: X_COMMIT} | “environment” has no “comit”; it has commit, branch,",
        "just words | does not hold “name: value” lines",
        "stream: \"a | is not well-formed YAML",
      })
  void whatCannotBeUsedIsSaid(String text, String message) {
    assertThatThrownBy(() -> file(text))
        .isInstanceOf(SettingsException.class)
        .hasMessageContaining(work.resolve("vine.yaml").toString())
        .hasMessageContaining(message);
  }
}
