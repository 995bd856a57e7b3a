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
import picocli.CommandLine.Parameters;

/** Gives a stream another name. */
@Command(
    name = "rename",
    description = {
      "Give a stream another name. What is sent to the one of before still goes to it.",
      "For owners, with a token of their own that has the scope tidy."
    },
    mixinStandardHelpOptions = true)
final class RenameCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(index = "0", paramLabel = "STREAM", description = "What it is called now.")
  private String stream = "";

  @Parameters(index = "1", paramLabel = "NAME", description = "What it shall be called.")
  private String name = "";

  private final Terminal terminal;
  private final Map<String, String> environment;

  RenameCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode renamed =
        portal.post(
            "streams/rename",
            Map.of("name", stream),
            JsonNodeFactory.instance.objectNode().put("name", name));
    if (options.json()) {
      terminal.json(renamed);
    } else {
      terminal.line(stream + " is called " + renamed.path("name").asText() + " now");
    }
    return ExitCode.DONE;
  }
}
