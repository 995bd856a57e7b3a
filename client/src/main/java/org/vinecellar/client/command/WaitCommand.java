package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.RunPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** Waits until a run is explained as far as it can be. */
@Command(
    name = "wait",
    description = {
      "Wait until the failures of a run are grouped, and explained as far as they were before.",
      "vine push does the same at its end."
    },
    mixinStandardHelpOptions = true)
final class WaitCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      index = "0",
      paramLabel = "STREAM#N",
      description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
  private String run = "";

  private final Terminal terminal;
  private final Map<String, String> environment;

  WaitCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode found = new Explained(portal).await(RunName.of(run).find(portal).path("id").asLong());
    if (options.json()) {
      terminal.json(found);
    } else {
      new RunPrinter(terminal).head(found);
    }
    if (!found.path("explained").asBoolean()) {
      throw new CommandException(
          ExitCode.NOT_REACHED, "the portal is busy: the run is not explained yet; try again");
    }
    return ExitCode.DONE;
  }
}
