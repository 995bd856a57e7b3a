package org.vinecellar.client.command;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.vinecellar.client.settings.SettingsFile;

/** A token goes where the operator says, not where a file of a repository does. */
class TrustedPortalsTest {
  private @TempDir Path work;

  private String checked(Map<String, String> environment) throws IOException {
    Files.writeString(work.resolve("vine.yaml"), "url: https://vine.skerrow.example/\n");
    return String.valueOf(new TrustedPortals(environment).checked(SettingsFile.near(work)));
  }

  private Map<String, String> config() {
    return Map.of("XDG_CONFIG_HOME", work.resolve("config").toString());
  }

  @Test
  void anAddressOfTheFileAloneIsRefused() {
    assertThatThrownBy(() -> checked(config()))
        .hasMessageContaining("VINE_URL=https://vine.skerrow.example/")
        .hasMessageContaining("vine/portals");
  }

  @Test
  void whatTheOperatorListsIsTrusted() throws IOException {
    assertThat(
            checked(Map.of("VINE_TRUSTED_URLS", "https://a.example https://vine.skerrow.example")))
        .isEqualTo("https://vine.skerrow.example/");
    Files.createDirectories(work.resolve("config/vine"));
    Files.writeString(
        work.resolve("config/vine/portals"), "# ours\nhttps://vine.skerrow.example\n");
    assertThat(checked(config())).isEqualTo("https://vine.skerrow.example/");
  }
}
