package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.file.Path;
import java.util.LinkedHashMap;
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
    description =
        "List the runs of a stream, or those of all that fit a filter, the newest first; with"
            + " neither, all streams.",
    mixinStandardHelpOptions = true)
final class RunsCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(names = "--stream", paramLabel = "NAME", description = "The stream.")
  private @Nullable String stream;

  @Option(
      names = "--filter",
      paramLabel = "FILTER",
      description = "Only runs that fit, as in 'failed gt 0 and label.team eq \"fares\"'.")
  private @Nullable String filter;

  @Mixin private SavedOption saved = new SavedOption();

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
    Map<String, String> query = new LinkedHashMap<>();
    if (stream != null) {
      query.put("stream", stream);
    }
    String fitting = saved.with(filter);
    if (fitting != null) {
      query.put("filter", fitting);
    }
    boolean streams = query.isEmpty();
    query.put("limit", Integer.toString(limit));
    JsonNode answer = streams ? portal.get("streams", Map.of()) : portal.get("runs", query);
    if (stream != null
        && answer.isEmpty()
        && (fitting == null || !Streams.hasRuns(portal, stream))) {
      throw Streams.missing(stream);
    }
    if (options.json()) {
      terminal.json(
          JsonNodeFactory.instance.objectNode().set(streams ? "streams" : "runs", answer));
    } else if (streams) {
      printer.streams(answer);
    } else {
      printer.runs(answer, stream == null, answer.size() == limit);
    }
    return ExitCode.DONE;
  }
}
