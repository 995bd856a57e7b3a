package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.RunPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows one run. */
@Command(
    name = "show",
    description = "Show a run: counts, what changed, and the failing tests, or those that fit.",
    mixinStandardHelpOptions = true)
final class ShowCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "STREAM#N",
      description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
  private String run = "";

  @Option(
      names = "--limit",
      paramLabel = "N",
      description = "At most so many tests (50, up to 500).")
  private int limit = 50;

  @Option(
      names = "--filter",
      paramLabel = "FILTER",
      description =
          "Show the results that fit in place of the failing ones, as in 'duration gt 2 and tag eq"
              + " \"smoke\"'.")
  private @Nullable String filter;

  @Mixin private SavedOption saved = new SavedOption();

  private final Terminal terminal;
  private final Map<String, String> environment;

  ShowCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    RunName name = RunName.of(run);
    var portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode head = name.find(portal);
    String fitting = saved.with(filter);
    if (fitting != null) {
      return filtered(portal, head, fitting);
    }
    ObjectNode look = new RunLook(portal, head).all(limit);
    if (options.json()) {
      terminal.json(look);
    } else {
      new RunPrinter(terminal).run(look);
    }
    return ExitCode.DONE;
  }

  private int filtered(Portal portal, JsonNode head, String wanted) {
    int most = Math.max(1, limit);
    JsonNode rows =
        portal.get(
            "runs/" + head.path("id").asLong() + "/results",
            Map.of("filter", wanted, "limit", Integer.toString(most)));
    if (options.json()) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.set("run", head);
      json.set("results", rows);
      terminal.json(json);
    } else {
      new RunPrinter(terminal).filtered(head, rows, rows.size() == most);
    }
    return ExitCode.DONE;
  }
}
