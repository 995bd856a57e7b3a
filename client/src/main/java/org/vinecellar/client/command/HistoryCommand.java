package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.output.TrustPrinter;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows what a test did before. */
@Command(
    name = "history",
    description = {
      "Show what a test did in the latest runs of a stream, under whatever name, and whether it can",
      "be believed."
    },
    mixinStandardHelpOptions = true)
final class HistoryCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "TEST",
      description = "Its suite and its name, e.g. org.skerrow.FareTest#rounds")
  private String test = "";

  @Option(names = "--stream", paramLabel = "NAME", required = true, description = "The stream.")
  private String stream = "";

  @Option(
      names = "--limit",
      paramLabel = "N",
      description = "The latest so many runs (100, up to 500).")
  private int limit = 100;

  private final Terminal terminal;
  private final Map<String, String> environment;

  HistoryCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode found = Named.of(portal, stream, test);
    ArrayNode all = JsonNodeFactory.instance.arrayNode();
    for (JsonNode one : found) {
      JsonNode history =
          portal.get(
              "tests/" + one.path("id").asLong() + "/history",
              Map.of("stream", stream, "limit", Integer.toString(limit)));
      if (options.json()) {
        ObjectNode both = all.addObject();
        both.set("test", one);
        both.set("history", history);
      } else {
        new TrustPrinter(terminal).history(one, history);
      }
    }
    if (options.json()) {
      terminal.json(all);
    }
    return ExitCode.DONE;
  }
}
