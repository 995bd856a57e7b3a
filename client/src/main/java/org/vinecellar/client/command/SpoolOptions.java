package org.vinecellar.client.command;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Spool;
import picocli.CommandLine.Option;

/** What to do when the portal cannot be reached. */
final class SpoolOptions {
  private static final int USUAL_SECONDS = 30;
  private static final int MOST_SECONDS = 24 * 3600;

  @Option(
      names = "--spool",
      paramLabel = "DIR",
      description =
          "Where uploads wait that could not be sent (VINE_SPOOL; else below ~/.local/state).")
  private @Nullable String spool;

  @Option(
      names = "--retry-for",
      paramLabel = "SECONDS",
      description = "How long to go on trying when the portal is away (VINE_RETRY_FOR; 30).")
  private @Nullable String retryFor;

  Spool spool(Map<String, String> environment, SettingsFile file) {
    String named = UploadSettings.told(spool, environment.get("VINE_SPOOL"), file.word("spool"));
    try {
      return new Spool(named == null ? Spool.usual(environment) : Path.of(named));
    } catch (InvalidPathException e) {
      throw new CommandException(ExitCode.WRONG_CALL, "“" + named + "” is not a path");
    }
  }

  Duration retryFor(Map<String, String> environment, SettingsFile file) {
    String told =
        UploadSettings.told(retryFor, environment.get("VINE_RETRY_FOR"), file.word("retry-for"));
    if (told == null) {
      return Duration.ofSeconds(USUAL_SECONDS);
    }
    if (!told.matches("[0-9]{1,6}") || Integer.parseInt(told) > MOST_SECONDS) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "“" + told + "” is no number of seconds from 0 to " + MOST_SECONDS);
    }
    return Duration.ofSeconds(Integer.parseInt(told));
  }
}
