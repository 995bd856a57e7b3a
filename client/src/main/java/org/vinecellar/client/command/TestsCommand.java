package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.RankPrinter;
import org.vinecellar.client.output.RunPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Lists tests. */
@Command(
    name = "tests",
    description = {
      "List tests of all runs, those that came first first; with --by, by their figures in the latest",
      "sixty runs of each stream."
    },
    mixinStandardHelpOptions = true)
final class TestsCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Option(
      names = "--filter",
      paramLabel = "FILTER",
      description = "Only tests that fit, as in 'suite co \"fares\" and not (tag pr)'.")
  private @Nullable String filter;

  @Mixin private SavedOption saved = new SavedOption();

  @Option(
      names = "--by",
      paramLabel = "FIGURE",
      description =
          "failing, costly (flaky ones: runs that failed by them alone, time for trying again),"
              + " slowing (what it costs a week), slowest, steady (never failing), missing (not run"
              + " lately) or newest.")
  private @Nullable String by;

  @Option(names = "--stream", paramLabel = "NAME", description = "With --by: only of this stream.")
  private @Nullable String stream;

  @Option(
      names = "--limit",
      paramLabel = "N",
      description = "At most so many tests (100, up to 500).")
  private int limit = 100;

  private final Terminal terminal;
  private final Map<String, String> environment;

  TestsCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Map<String, String> query = new LinkedHashMap<>();
    query.put("limit", Integer.toString(limit));
    String fitting = saved.with(filter);
    if (fitting != null) {
      query.put("filter", fitting);
    }
    if (by != null) {
      return ranked(portal, by, query);
    }
    if (stream != null) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "--stream goes with --by; or write it as a filter: results[run.stream eq \""
              + stream
              + "\"]");
    }
    JsonNode tests = portal.get("tests", query);
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().set("tests", tests));
    } else {
      new RunPrinter(terminal).tests(tests, tests.size() == limit);
    }
    return ExitCode.DONE;
  }

  private int ranked(Portal portal, String figure, Map<String, String> query) {
    query.put("by", figure);
    if (stream != null) {
      Streams.needed(portal, stream);
      query.put("stream", stream);
    }
    JsonNode tests = portal.get("tests/ranked", query);
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().set("tests", tests));
    } else {
      new RankPrinter(terminal).ranked(tests, figure, tests.size() == limit);
    }
    return ExitCode.DONE;
  }
}
