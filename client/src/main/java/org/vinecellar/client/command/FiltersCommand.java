package org.vinecellar.client.command;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Filters under a name. */
@Command(
    name = "filters",
    description = {
      "List the project’s saved filters, keep one, or bring in those of another project. A saved",
      "filter is named by --saved NAME, or in any filter as in 'saved eq \"Nights\"'."
    },
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND")
final class FiltersCommand implements Runnable {
  private static final long LARGEST = 4L << 20;

  @Spec private CommandSpec spec = CommandSpec.create();

  private final Terminal terminal;
  private final Map<String, String> environment;

  FiltersCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public void run() {
    throw new ParameterException(
        spec.commandLine(), "name a command: filters list, keep, bring or drop");
  }

  private Portal portal(PortalOptions options) {
    return options.portal(environment, SettingsFile.near(Path.of("")));
  }

  @Command(
      name = "list",
      description = "List saved filters by name. With --json they can be brought in elsewhere.",
      mixinStandardHelpOptions = true)
  int list(@Mixin PortalOptions options) {
    JsonNode all = portal(options).get("filters/saved", Map.of());
    if (options.json()) {
      terminal.json(all);
      return ExitCode.DONE;
    }
    for (JsonNode one : all) {
      terminal.line(
          terminal.paint(Terminal.clean(one.path("name").asText()), Terminal.Paint.BOLD)
              + "  of "
              + one.path("of").asText()
              + "s"
              + (one.path("mine").asBoolean() ? ", mine" : ""));
      terminal.line("  " + Terminal.clean(one.path("filter").asText()));
    }
    if (all.isEmpty()) {
      terminal.line("no filter is saved");
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "keep",
      description = "Keep a filter under a name, for all of the project.",
      mixinStandardHelpOptions = true)
  int keep(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "NAME", description = "Its name.") String name,
      @Option(
              names = "--of",
              paramLabel = "THING",
              required = true,
              description = "What it picks: run, result, test or group.")
          String of,
      @Option(
              names = "--filter",
              paramLabel = "FILTER",
              required = true,
              description = "Its text, as in 'branch eq \"main\" and failed gt 0'.")
          String filter) {
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("name", name).put("of", of).put("filter", filter);
    JsonNode kept = portal(options).post("filters/saved", body);
    if (options.json()) {
      terminal.json(kept);
    } else {
      terminal.line("kept; it is named by " + Terminal.clean(kept.path("reference").asText()));
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "bring",
      description = {
        "Keep all filters of a file, as “filters list --json” writes it, those first that others",
        "name. It ends at the first that cannot be kept; those before it are."
      },
      mixinStandardHelpOptions = true)
  int bring(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "FILE", description = "Where they are.") Path file) {
    List<JsonNode> said = ordered(read(file));
    Portal portal = portal(options);
    ArrayNode kept = JsonNodeFactory.instance.arrayNode();
    for (JsonNode one : said) {
      ObjectNode body = JsonNodeFactory.instance.objectNode();
      body.set("name", one.path("name"));
      body.set("of", one.path("of"));
      body.set("filter", one.path("filter"));
      try {
        kept.add(portal.post("filters/saved", body));
      } catch (PortalException e) {
        terminal.note(
            kept.size()
                + " of "
                + said.size()
                + " were kept; “"
                + Terminal.clean(one.path("name").asText())
                + "” was not");
        throw e;
      }
    }
    if (options.json()) {
      terminal.json(kept);
    } else {
      terminal.line(kept.size() + (kept.size() == 1 ? " filter was kept" : " filters were kept"));
    }
    return ExitCode.DONE;
  }

  /** Whoever is named stands before whoever names it; two that name each other come last. */
  private static List<JsonNode> ordered(ArrayNode all) {
    List<JsonNode> left = new ArrayList<>();
    all.forEach(left::add);
    List<JsonNode> ordered = new ArrayList<>();
    while (!left.isEmpty()) {
      List<JsonNode> free = left.stream().filter(one -> !namesOneOf(left, one)).toList();
      ordered.addAll(free.isEmpty() ? left : free);
      left.removeAll(free.isEmpty() ? List.copyOf(left) : free);
    }
    return ordered;
  }

  private static boolean namesOneOf(List<JsonNode> others, JsonNode one) {
    String text = one.path("filter").asText();
    return others.stream()
        .anyMatch(other -> other != one && text.contains(other.path("name").toString()));
  }

  private static ArrayNode read(Path file) {
    try {
      if (Files.size(file) > LARGEST) {
        throw new CommandException(ExitCode.WRONG_CALL, file + " is too large for saved filters");
      }
      JsonNode read = new ObjectMapper().readTree(Files.readAllBytes(file));
      if (read instanceof ArrayNode all) {
        return all;
      }
    } catch (JsonProcessingException e) {
      throw new CommandException(
          ExitCode.UNREADABLE, file + " is no JSON; bring in what “filters list --json” writes");
    } catch (IOException e) {
      throw new CommandException(ExitCode.UNREADABLE, file + " cannot be read: " + e.getMessage());
    }
    throw new CommandException(
        ExitCode.UNREADABLE, file + " is no list of filters, each with name, of and filter");
  }

  @Command(
      name = "drop",
      description = "Take a saved filter away, for all; not while something names it.",
      mixinStandardHelpOptions = true)
  int drop(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "NAME", description = "Its name.") String name) {
    Portal portal = portal(options);
    for (JsonNode one : portal.get("filters/saved", Map.of())) {
      if (one.path("name").asText().equals(name) && !one.path("mine").asBoolean()) {
        portal.delete("filters/saved/" + one.path("id").asLong(), Map.of());
        if (options.json()) {
          terminal.json(JsonNodeFactory.instance.objectNode().put("dropped", name));
        } else {
          terminal.line("dropped");
        }
        return ExitCode.DONE;
      }
    }
    throw new CommandException(
        ExitCode.REFUSED, "there is no saved filter “" + name + "”; vine filters list tells");
  }
}
