package org.vinecellar.client.command;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.SettingsFile;

/**
 * Where a token may go when only {@code vine.yaml} says where to: that file comes with a
 * repository, whoever wrote it, and the token does not. So the operator lists the portals that are
 * theirs, in {@code VINE_TRUSTED_URLS} or in {@code vine/portals} of the user's configuration (XDG
 * Base Directory Specification), one a line.
 */
final class TrustedPortals {
  private final Map<String, String> environment;

  TrustedPortals(Map<String, String> environment) {
    this.environment = environment;
  }

  /**
   * The portal that the file names.
   *
   * @return null when it names none
   * @throws CommandException when it is none of the operator's
   */
  @Nullable String checked(SettingsFile file) {
    String url = file.word("url");
    if (url == null || url.isBlank()) {
      return null;
    }
    if (trusted().stream().noneMatch(known -> same(known, url))) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "vine.yaml names the portal “"
              + url
              + "”, and a token does not go where only a file of the repository says. If it is"
              + " yours: set VINE_URL="
              + url
              + ", or add it as a line to "
              + list());
    }
    return url;
  }

  private static boolean same(String one, String other) {
    return one.strip().replaceAll("/+$", "").equals(other.strip().replaceAll("/+$", ""));
  }

  private List<String> trusted() {
    List<String> all =
        new ArrayList<>(
            List.of(environment.getOrDefault("VINE_TRUSTED_URLS", "").split("[,\\s]+")));
    Path list = list();
    if (Files.isRegularFile(list)) {
      try {
        all.addAll(Files.readAllLines(list, StandardCharsets.UTF_8));
      } catch (IOException e) {
        throw new CommandException(
            ExitCode.WRONG_CALL, list + " cannot be read: " + e.getMessage());
      }
    }
    return all.stream().filter(url -> !url.isBlank() && !url.startsWith("#")).toList();
  }

  private Path list() {
    String config = environment.get("XDG_CONFIG_HOME");
    Path base =
        config == null || config.isBlank()
            ? Path.of(environment.getOrDefault("HOME", System.getProperty("user.home")), ".config")
            : Path.of(config);
    return base.resolve("vine").resolve("portals");
  }
}
