package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Takes a run or a stream away. */
@Command(
    name = "delete",
    description = {
      "Delete a run, or a stream with all its runs (--all), for everybody and for good.",
      "For owners, with a token of their own that has the scope tidy."
    },
    mixinStandardHelpOptions = true)
final class DeleteCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "STREAM[#N]",
      description = "The run, e.g. booking-api/nightly#12; with --all the stream.")
  private String what = "";

  @Option(names = "--all", description = "The stream with all its runs.")
  private boolean all;

  @Option(
      names = "--for-good",
      description = "Yes, it is meant; without it is only said what would go.")
  private boolean meant;

  private final Terminal terminal;
  private final Map<String, String> environment;

  DeleteCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    RunName name = RunName.named(what, all);
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    String id = name.find(portal).path("id").asText();
    if (!meant) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          name
              + (all ? " with all its runs" : "")
              + " would go, for everybody and for good; say --for-good if it is meant. Nothing was"
              + " deleted.");
    }
    if (all) {
      portal.delete("streams", Map.of("name", name.stream()));
    } else {
      portal.delete("runs/" + id, Map.of());
    }
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().put("deleted", name.toString()));
    } else {
      terminal.line(name + " is deleted");
    }
    return ExitCode.DONE;
  }
}
