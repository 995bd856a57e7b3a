package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
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
import picocli.CommandLine.Parameters;

/** Lists tests whose names are made up anew in each run, and folds them. */
@Command(
    name = "fold",
    description = {
      "List tests whose names are others in each run, since there is made-up data in them; with the",
      "number of one, take all its cases for one test, those of before and those to come."
    },
    mixinStandardHelpOptions = true)
final class FoldCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      index = "0",
      arity = "0..1",
      paramLabel = "NUMBER",
      description = "As the list tells it; without it, the list is printed.")
  private @Nullable Integer number;

  @Option(names = "--stream", paramLabel = "NAME", description = "List only those of this stream.")
  private @Nullable String stream;

  @Option(names = "--apart", description = "Take the cases for tests of their own again.")
  private boolean apart;

  private final Terminal terminal;
  private final Map<String, String> environment;

  FoldCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    if (number == null && apart) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "--apart goes with a number; vine fold lists them");
    }
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    if (number == null) {
      JsonNode all =
          portal.get("tests/made-up", stream == null ? Map.of() : Map.of("stream", stream));
      if (options.json()) {
        terminal.json(JsonNodeFactory.instance.objectNode().set("madeUp", all));
      } else if (all.isEmpty()) {
        terminal.line("no test has made-up names, as far as can be seen");
      } else {
        all.forEach(new RankPrinter(terminal)::madeUp);
      }
      return ExitCode.DONE;
    }
    JsonNode now =
        portal.put(
            "tests/made-up/" + number,
            null,
            JsonNodeFactory.instance.objectNode().put("folded", !apart));
    if (options.json()) {
      terminal.json(now);
    } else {
      new RankPrinter(terminal).madeUp(now);
    }
    return ExitCode.DONE;
  }
}
