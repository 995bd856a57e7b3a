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

/** Sets the outcome of a result over the reported one. */
@Command(
    name = "overrule",
    description = {
      "Let a result count as something else than it was reported, with a reason.",
      "What was reported stays visible, and the run says that it was overruled."
    },
    mixinStandardHelpOptions = true)
final class OverruleCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      index = "0",
      paramLabel = "STREAM#N",
      description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
  private String run = "";

  @Parameters(index = "1", paramLabel = "ID", description = "The result; vine show prints the IDs.")
  private String result = "";

  @Option(
      names = "--as",
      paramLabel = "OUTCOME",
      description = "passed, failed, errored, skipped or \"not reached\".")
  private @Nullable String outcome;

  @Option(names = "--take-back", description = "What was reported counts again.")
  private boolean takeBack;

  @Option(
      names = "--reason",
      paramLabel = "TEXT",
      required = true,
      description = "Why, for those who wonder later.")
  private String reason = "";

  private final Terminal terminal;
  private final Map<String, String> environment;

  OverruleCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    if ((outcome == null) != takeBack) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "say what the result counts as (--as passed), or that what was reported counts again"
              + " (--take-back)");
    }
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode found = RunName.of(run).find(portal);
    String path = "runs/" + found.path("id").asText();
    String of = path + "/results/" + Portal.encoded(result);
    JsonNode before = portal.get(of, Map.of()).path("result");
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("seen", before.path("outcome").asText());
    body.put("outcome", outcome);
    body.put("reason", reason);
    portal.put(of + "/outcome", null, body);
    JsonNode after = portal.get(path, Map.of());
    if (options.json()) {
      terminal.json(after);
    } else {
      new RunPrinter(terminal).head(after);
    }
    return ExitCode.DONE;
  }
}
