package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.RankPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Splits the suites of a stream over parts. */
@Command(
    name = "plan",
    description = {
      "Split the suites of a stream over parts that take about as long, by how long each takes now.",
      "With --part, print the suites of that part, one in each line; let the last part take whatever the",
      "others leave, with --others, so that a new suite is run too."
    },
    mixinStandardHelpOptions = true)
final class PlanCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(names = "--stream", paramLabel = "NAME", required = true, description = "The stream.")
  private String stream = "";

  @Option(
      names = "--parts",
      paramLabel = "N",
      required = true,
      description = "Over how many parts, from 1 to 200.")
  private int parts;

  @Option(names = "--part", paramLabel = "K", description = "Print the suites of part K, from 1.")
  private @Nullable Integer part;

  @Option(
      names = "--others",
      description = "With --part: print the suites of all other parts, to be left out.")
  private boolean others;

  private final Terminal terminal;
  private final Map<String, String> environment;

  PlanCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    if (part != null && (part < 1 || part > parts)) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "--part is " + part + "; it goes from 1 to " + parts);
    }
    if (part == null && others) {
      throw new CommandException(ExitCode.WRONG_CALL, "--others goes with --part");
    }
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode plan =
        portal.get("tests/plan", Map.of("stream", stream, "parts", Integer.toString(parts)));
    if (options.json()) {
      terminal.json(plan);
    } else if (part == null) {
      new RankPrinter(terminal).plan(plan);
    } else {
      for (JsonNode one : plan.path("parts")) {
        if ((one.path("part").asInt() == part) != others) {
          one.path("suites").forEach(suite -> print(suite.asText()));
        }
      }
    }
    return ExitCode.DONE;
  }

  /** A line without a name would be read as every suite, or as none. */
  private void print(String suite) {
    if (suite.isEmpty()) {
      terminal.note(
          "tests without a suite are in no line; a part that leaves out others runs them");
    } else {
      terminal.line(Terminal.clean(suite));
    }
  }
}
