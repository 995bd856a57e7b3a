package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.QuarantinePrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Tests whose failures fail no gate for a while. */
@Command(
    name = "quarantine",
    description = {
      "Let tests fail for a while without failing a gate: list them, put some there, change the terms,",
      "end it, or print them for who runs the tests."
    },
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND")
final class QuarantineCommand implements Runnable {
  @Spec private CommandSpec spec = CommandSpec.create();

  private final Terminal terminal;
  private final Map<String, String> environment;

  QuarantineCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public void run() {
    throw new ParameterException(
        spec.commandLine(),
        "name a command: quarantine list, add, change, end, tests or arguments");
  }

  @Command(
      name = "list",
      description =
          "List tests in quarantine with what they did since, those that end first first.",
      mixinStandardHelpOptions = true)
  int list(
      @Mixin PortalOptions options,
      @Option(names = "--stream", paramLabel = "NAME", description = "Only what holds in it.")
          @Nullable String stream,
      @Option(names = "--ended", description = "Those that somebody ended.") boolean ended) {
    Portal portal = portal(options);
    Map<String, String> query = query(stream);
    query.put("ended", Boolean.toString(ended));
    query.put("limit", "500");
    ArrayNode all = JsonNodeFactory.instance.arrayNode();
    portal.pages("quarantine", query, page -> page.forEach(all::add));
    Streams.noted(portal, stream, terminal);
    if (options.json()) {
      terminal.json(all);
    } else {
      new QuarantinePrinter(terminal).list(all, ended);
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "add",
      description = {
        "Put tests into quarantine, by name with their stream, or by a filter of tests.",
        "Failures count again in runs that begin after the last day."
      },
      mixinStandardHelpOptions = true)
  int add(
      @Mixin PortalOptions options,
      @Parameters(
              paramLabel = "TEST",
              arity = "0..*",
              description = "Suite and name, e.g. org.skerrow.FareTest#rounds; with --stream.")
          @Nullable List<String> tests,
      @Option(
              names = "--stream",
              paramLabel = "NAME",
              description = "Where it shall hold; with a filter, every stream when left out.")
          @Nullable String stream,
      @Option(
              names = "--filter",
              paramLabel = "FILTER",
              description = "Tests that fit, as in 'suite co \"kiosk\"'; in place of names.")
          @Nullable String written,
      @Mixin SavedOption saved,
      @Option(
              names = "--owner",
              paramLabel = "WHO",
              required = true,
              description = "A person or a team that sees to it.")
          String owner,
      @Option(
              names = "--reason",
              paramLabel = "TEXT",
              required = true,
              description = "Why, in one line.")
          String reason,
      @Option(names = "--ticket", paramLabel = "KEY", description = "Its key or address.")
          @Nullable String ticket,
      @Option(
              names = "--until",
              paramLabel = "DAY",
              required = true,
              description = "The last day (UTC), as 2027-01-05; at most 180 days from now.")
          String until,
      @Option(names = "--trial", description = "Only tell which tests it would be.")
          boolean trial) {
    String filter = saved.with(written);
    List<String> names = tests == null ? List.of() : tests;
    boolean named = !names.isEmpty();
    if (named == (filter != null)) {
      throw new ParameterException(
          spec.commandLine(), "say which tests: either by name, or by --filter");
    }
    if (named && stream == null) {
      throw new ParameterException(
          spec.commandLine(), "say of which stream these tests are: --stream");
    }
    Portal portal = portal(options);
    ObjectNode body = terms(owner, reason, ticket, until);
    body.put("stream", stream);
    body.put("trial", trial);
    if (named) {
      ArrayNode ids = body.putArray("tests");
      for (String test : names) {
        Named.of(portal, stream == null ? "" : stream, test)
            .forEach(one -> ids.add(one.path("id")));
      }
    } else {
      body.put("filter", filter);
    }
    JsonNode added = portal.post("quarantine", body);
    if (options.json()) {
      terminal.json(added);
    } else {
      new QuarantinePrinter(terminal).added(added, until, trial);
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "change",
      description = "Give a quarantine other terms; what is not said stays.",
      mixinStandardHelpOptions = true)
  int change(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "ID", description = "Its number, as the list tells.") long id,
      @Option(names = "--owner", paramLabel = "WHO", description = "Who sees to it.")
          @Nullable String owner,
      @Option(names = "--reason", paramLabel = "TEXT", description = "Why, in one line.")
          @Nullable String reason,
      @Option(names = "--ticket", paramLabel = "KEY", description = "Its key or address.")
          @Nullable String ticket,
      @Option(names = "--until", paramLabel = "DAY", description = "The last day (UTC).")
          @Nullable String until) {
    if (owner == null && reason == null && ticket == null && until == null) {
      throw new ParameterException(
          spec.commandLine(), "say what shall change: --owner, --reason, --ticket or --until");
    }
    Portal portal = portal(options);
    JsonNode before = portal.get("quarantine/" + id, Map.of());
    ObjectNode body =
        terms(
            owner == null ? before.path("owner").asText() : owner,
            reason == null ? before.path("reason").asText() : reason,
            ticket == null ? before.path("ticket").asText(null) : ticket,
            until == null ? before.path("until").asText() : until);
    body.set("version", before.path("version"));
    JsonNode unused = portal.put("quarantine/" + id, null, body);
    return said(options, "changed", id, "quarantine " + id + " is changed");
  }

  @Command(
      name = "end",
      description = "End a quarantine: failures in runs that begin from now on count again.",
      mixinStandardHelpOptions = true)
  int end(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "ID", description = "Its number, as the list tells.") long id) {
    portal(options).delete("quarantine/" + id, Map.of());
    return said(
        options, "ended", id, "quarantine " + id + " is ended: runs that begin now count it again");
  }

  private int said(PortalOptions options, String what, long id, String text) {
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().put(what, id));
    } else {
      terminal.line(text);
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "tests",
      description = "Print the names of the tests that are in quarantine today, one in each line.",
      mixinStandardHelpOptions = true)
  int tests(
      @Mixin PortalOptions options,
      @Option(names = "--stream", paramLabel = "NAME", description = "Only what holds in it.")
          @Nullable String stream) {
    Portal portal = portal(options);
    JsonNode names = portal.get("quarantine/tests", query(stream));
    Streams.noted(portal, stream, terminal);
    if (options.json()) {
      terminal.json(names);
    } else {
      names.forEach(name -> terminal.line(Terminal.clean(name.asText())));
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "arguments",
      description = {
        "Print arguments by which a runner leaves out what is in quarantine today, one in each line:",
        "mapfile -t skip < <(vine quarantine arguments --runner pytest); pytest \"${skip[@]}\""
      },
      mixinStandardHelpOptions = true)
  int arguments(
      @Mixin PortalOptions options,
      @Option(
              names = "--runner",
              paramLabel = "NAME",
              required = true,
              description =
                  "maven, gradle, pytest, go, dotnet, gtest, cargo, jest, vitest, playwright, mocha,"
                      + " ctest, rspec or phpunit.")
          String runner,
      @Option(names = "--only", description = "To run just these instead, as for another try.")
          boolean only,
      @Option(names = "--stream", paramLabel = "NAME", description = "Only what holds in it.")
          @Nullable String stream) {
    Map<String, String> query = query(stream);
    query.put("runner", runner);
    query.put("only", Boolean.toString(only));
    Portal portal = portal(options);
    JsonNode told = portal.get("quarantine/arguments", query);
    Streams.noted(portal, stream, terminal);
    if (options.json()) {
      terminal.json(told);
      return ExitCode.DONE;
    }
    told.path("arguments").forEach(word -> terminal.line(word.asText()));
    for (JsonNode left : told.path("left")) {
      terminal.note(
          Terminal.clean(left.path("test").asText())
              + (only ? " is not told: " : " is run: ")
              + left.path("why").asText());
    }
    return ExitCode.DONE;
  }

  private static ObjectNode terms(
      String owner, String reason, @Nullable String ticket, String until) {
    return JsonNodeFactory.instance
        .objectNode()
        .put("owner", owner)
        .put("reason", reason)
        .put("ticket", ticket)
        .put("until", until);
  }

  private static Map<String, String> query(@Nullable String stream) {
    Map<String, String> query = new LinkedHashMap<>();
    if (stream != null) {
      query.put("stream", stream);
    }
    return query;
  }

  private Portal portal(PortalOptions options) {
    return options.portal(environment, SettingsFile.near(Path.of("")));
  }
}
