package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.output.RunPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Says that all parts of a run are there. */
@Command(
    name = "close",
    description = "Say that all parts of a run are there.",
    mixinStandardHelpOptions = true)
final class CloseCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(
      names = "--stream",
      paramLabel = "NAME",
      description = "The stream of the run (VINE_STREAM, or vine.yaml).")
  private @Nullable String stream;

  @Option(
      names = "--run",
      paramLabel = "KEY",
      description = "The key that its parts were sent with (VINE_RUN).")
  private @Nullable String run;

  private final Terminal terminal;
  private final Map<String, String> environment;

  CloseCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    String name = UploadSettings.told(stream, environment.get("VINE_STREAM"), file.word("stream"));
    String key = UploadSettings.told(run, environment.get("VINE_RUN"));
    if (name == null || key == null) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "name the run: --stream and --run, with the key that its parts were sent with");
    }
    JsonNode closed;
    try {
      closed = portal.post("runs/close", Map.of("stream", name, "key", key));
    } catch (PortalException e) {
      if (e.status() == 404) {
        throw new CommandException(
            ExitCode.NOTHING_FOUND,
            "the stream " + name + " has no run with the key " + key + "; nothing was closed");
      }
      throw e;
    }
    if (options.json()) {
      terminal.json(closed);
    } else {
      new RunPrinter(terminal).head(closed);
    }
    return ExitCode.DONE;
  }
}
