package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
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
    description = "Show a run: counts, what changed, and the failing tests.",
    mixinStandardHelpOptions = true)
final class ShowCommand implements Callable<Integer> {
  private static final Pattern RUN = Pattern.compile("(\\S+?)(?:#([0-9]{1,9}))?");

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

  private final Terminal terminal;
  private final Map<String, String> environment;

  ShowCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Matcher matcher = RUN.matcher(run);
    if (!matcher.matches()) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "“" + run + "” is not a run; write it as booking-api/nightly#12");
    }
    var portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Map<String, String> query = new LinkedHashMap<>();
    query.put("stream", matcher.group(1));
    query.put("limit", "1");
    if (matcher.group(2) != null) {
      query.put("number", matcher.group(2));
    }
    JsonNode found = portal.get("runs", query);
    if (found.isEmpty()) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND, "there is no run " + run + "; see vine runs --stream …");
    }
    JsonNode head = found.get(0);
    String path = "runs/" + head.path("id").asLong() + "/results";
    ArrayNode failing = JsonNodeFactory.instance.arrayNode();
    JsonNode rows = portal.get(path, Map.of("limit", Integer.toString(Math.max(1, limit))));
    for (JsonNode row : rows) {
      String outcome = row.path("outcome").asText();
      if (outcome.equals("failed") || outcome.equals("errored")) {
        failing.add(row);
      }
    }
    if (options.json()) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.set("run", head);
      json.set("failing", failing);
      terminal.json(json);
    } else {
      new RunPrinter(terminal).run(head, failing);
    }
    return ExitCode.DONE;
  }
}
