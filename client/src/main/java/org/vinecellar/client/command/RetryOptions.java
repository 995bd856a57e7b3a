package org.vinecellar.client.command;

import java.time.Duration;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Option;

/** How long to go on when the portal is away. */
final class RetryOptions {
  private static final int USUAL_SECONDS = 30;
  private static final int MOST_SECONDS = 24 * 3600;

  @Option(
      names = "--retry-for",
      paramLabel = "SECONDS",
      description = "How long to go on trying when the portal is away (VINE_RETRY_FOR; 30).")
  private @Nullable String retryFor;

  Duration time(Map<String, String> environment, SettingsFile file) {
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
