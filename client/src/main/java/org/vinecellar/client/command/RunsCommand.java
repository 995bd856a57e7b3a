package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.output.RunPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Lists streams, or the runs of one. */
@Command(
    name = "runs",
    description = "List the runs of a stream, the newest first; without --stream, all streams.",
    mixinStandardHelpOptions = true)
final class RunsCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(names = "--stream", paramLabel = "NAME", description = "The stream.")
  private @Nullable String stream;

  @Option(names = "--limit", paramLabel = "N", description = "At most so many runs (20).")
  private int limit = 20;

  private final Terminal terminal;
  private final Map<String, String> environment;

  RunsCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    var portal = options.portal(environment, SettingsFile.near(Path.of("")));
    RunPrinter printer = new RunPrinter(terminal);
    JsonNode answer =
        stream == null
            ? portal.get("streams", Map.of())
            : portal.get("runs", Map.of("stream", stream, "limit", Integer.toString(limit)));
    if (stream != null && answer.isEmpty()) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND, "there is no stream “" + stream + "” with a run; see vine runs");
    }
    if (options.json()) {
      terminal.json(
          JsonNodeFactory.instance.objectNode().set(stream == null ? "streams" : "runs", answer));
    } else if (stream == null) {
      printer.streams(answer);
    } else {
      printer.runs(answer);
    }
    return ExitCode.DONE;
  }
}
