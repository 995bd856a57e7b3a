package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.output.TrustPrinter;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Lists tests that fail by chance. */
@Command(
    name = "flaky",
    description = "List tests that pass and fail with no change that explains it.",
    mixinStandardHelpOptions = true)
final class FlakyCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(names = "--stream", paramLabel = "NAME", description = "Only of this stream.")
  private @Nullable String stream;

  @Option(
      names = "--limit",
      paramLabel = "N",
      description = "At most so many tests (100, up to 500).")
  private int limit = 100;

  private final Terminal terminal;
  private final Map<String, String> environment;

  FlakyCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Map<String, String> query = new LinkedHashMap<>();
    query.put("verdict", "flaky");
    query.put("limit", Integer.toString(limit));
    if (stream != null) {
      Streams.needed(portal, stream);
      query.put("stream", stream);
    }
    JsonNode tests = portal.get("tests/taken", query);
    if (options.json()) {
      terminal.json(tests);
    } else {
      new TrustPrinter(terminal).flaky(tests, tests.size() == limit);
    }
    return ExitCode.DONE;
  }
}
