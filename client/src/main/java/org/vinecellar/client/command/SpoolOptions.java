package org.vinecellar.client.command;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Spool;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** What to do when the portal cannot be reached. */
final class SpoolOptions {
  @Option(
      names = "--spool",
      paramLabel = "DIR",
      description =
          "Where uploads wait that could not be sent (VINE_SPOOL; else below ~/.local/state).")
  private @Nullable String spool;

  @Mixin private RetryOptions retrying = new RetryOptions();

  Spool spool(Map<String, String> environment, SettingsFile file) {
    String named = UploadSettings.told(spool, environment.get("VINE_SPOOL"), file.word("spool"));
    try {
      return new Spool(named == null ? Spool.usual(environment) : Path.of(named));
    } catch (InvalidPathException e) {
      throw new CommandException(ExitCode.WRONG_CALL, "“" + named + "” is not a path");
    }
  }

  Duration retryFor(Map<String, String> environment, SettingsFile file) {
    return retrying.time(environment, file);
  }
}
