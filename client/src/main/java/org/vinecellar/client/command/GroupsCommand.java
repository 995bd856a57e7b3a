package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.GroupPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** Shows the failure groups of a run. */
@Command(
    name = "groups",
    description =
        "Show what fails in a run by its causes: unexplained ones first, the widest first.",
    mixinStandardHelpOptions = true)
final class GroupsCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "STREAM#N",
      description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
  private String run = "";

  private final Terminal terminal;
  private final Map<String, String> environment;

  GroupsCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode found = RunName.of(run).find(portal);
    JsonNode groups = portal.get("runs/" + found.path("id").asText() + "/groups", Map.of());
    if (options.json()) {
      terminal.json(groups);
    } else {
      new GroupPrinter(terminal).ofRun(groups);
      if (!found.path("explained").asBoolean(true)) {
        terminal.note("this run is still being grouped; vine wait waits for it");
      }
    }
    return ExitCode.DONE;
  }
}
