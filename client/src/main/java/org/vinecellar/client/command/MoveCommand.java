package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
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

/** Brings runs that were sent under a wrong name to their stream. */
@Command(
    name = "move",
    description = {
      "Move a run to another stream, or all runs of a stream (--all), which what is sent to its name"
          + " goes to from then on.",
      "For owners, with a token of their own that has the scope tidy."
    },
    mixinStandardHelpOptions = true)
final class MoveCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "STREAM[#N]",
      description = "The run, e.g. booking-api/nigthly#3; with --all the stream.")
  private String what = "";

  @Option(
      names = "--to",
      paramLabel = "STREAM",
      required = true,
      description = "Where it belongs; a stream that is there.")
  private String to = "";

  @Option(names = "--all", description = "All runs of the stream, which then is no more.")
  private boolean all;

  private final Terminal terminal;
  private final Map<String, String> environment;

  MoveCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    RunName name = RunName.named(what, all);
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode target = JsonNodeFactory.instance.objectNode().put("to", to);
    JsonNode moved =
        all
            ? portal.post("streams/move", Map.of("name", name.stream()), target)
            : portal.post(
                "runs/" + name.find(portal).path("id").asText() + "/move", Map.of(), target);
    if (options.json()) {
      terminal.json(moved);
    } else if (all) {
      int left = moved.path("left").asInt();
      terminal.line(
          moved.path("moved").asInt()
              + " runs of "
              + name
              + " are in "
              + moved.path("stream").asText()
              + " now"
              + (left == 0 ? "" : "; " + left + " follow"));
    } else {
      terminal.line(
          name
              + " is "
              + moved.path("stream").asText()
              + "#"
              + moved.path("number").asInt()
              + " now");
    }
    return ExitCode.DONE;
  }
}
