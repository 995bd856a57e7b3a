package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** Writes what the portal knows as lines for other programs. */
@Command(
    name = "export",
    description = "Write what the portal knows as lines for other programs.",
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND")
final class ExportCommand implements Runnable {
  /** The columns, in this order; more may come behind them. */
  private static final List<String> FAILURES =
      List.of(
          "run",
          "key",
          "test",
          "suite",
          "group",
          "keyKind",
          "category",
          "origin",
          "decision",
          "comment",
          "ticket",
          "result",
          "by");

  private static final List<String> TESTS =
      List.of(
          "test",
          "variant",
          "verdict",
          "score",
          "rate",
          "low",
          "high",
          "runs",
          "since",
          "suite",
          "stumbles",
          "onlyIn");

  private static final List<String> RENAMES =
      List.of("old", "new", "state", "run", "likely", "byHand", "variant");

  /** What a spreadsheet would take for a formula. */
  private static final String FORMULA = "=+-@\t\r";

  @Spec private CommandSpec spec = CommandSpec.create();

  private final Terminal terminal;
  private final Map<String, String> environment;

  ExportCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public void run() {
    throw new ParameterException(
        spec.commandLine(), "name what to export: export failures, export tests, export renames");
  }

  /** How lines are written. */
  enum Format {
    ndjson,
    csv
  }

  @Command(
      name = "failures",
      description = "A line for each failing result of a stream, with its group and decision.",
      mixinStandardHelpOptions = true)
  int failures(
      @Mixin PortalOptions options,
      @Option(names = "--stream", paramLabel = "NAME", required = true, description = "The stream.")
          String stream,
      @Option(
              names = "--format",
              paramLabel = "FORMAT",
              defaultValue = "ndjson",
              description = "ndjson (a JSON object on each line; the usual) or csv (RFC 4180).")
          Format format,
      @Option(names = "--from", paramLabel = "N", description = "The first run.")
          @Nullable Integer from,
      @Option(names = "--to", paramLabel = "N", description = "The last run.") @Nullable Integer to,
      @Option(
              names = "--suggested",
              description =
                  "Tell of unexplained failures which category is suggested, if one is; without a"
                      + " decision.")
          boolean suggested) {
    if (from != null && to != null && from > to) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "--from " + from + " comes after --to " + to + "; no run is between");
    }
    Portal portal = portalWith(options, stream);
    Map<String, String> query = new LinkedHashMap<>();
    query.put("stream", stream);
    if (from != null) {
      query.put("from", from.toString());
    }
    if (to != null) {
      query.put("to", to.toString());
    }
    if (suggested) {
      query.put("suggested", "true");
    }
    lines(portal, "failures", query, FAILURES, format);
    return ExitCode.DONE;
  }

  @Command(
      name = "tests",
      description = {
        "A line for each test of a stream: whether it can be believed, and how often it fails by",
        "chance."
      },
      mixinStandardHelpOptions = true)
  int tests(
      @Mixin PortalOptions options,
      @Option(names = "--stream", paramLabel = "NAME", required = true, description = "The stream.")
          String stream,
      @Option(
              names = "--format",
              paramLabel = "FORMAT",
              defaultValue = "ndjson",
              description = "ndjson (a JSON object on each line; the usual) or csv (RFC 4180).")
          Format format) {
    lines(portalWith(options, stream), "tests/estimates", Map.of("stream", stream), TESTS, format);
    return ExitCode.DONE;
  }

  @Command(
      name = "renames",
      description = "A line for each test of a stream that goes on under another name.",
      mixinStandardHelpOptions = true)
  int renames(
      @Mixin PortalOptions options,
      @Option(names = "--stream", paramLabel = "NAME", required = true, description = "The stream.")
          String stream,
      @Option(
              names = "--format",
              paramLabel = "FORMAT",
              defaultValue = "ndjson",
              description = "ndjson (a JSON object on each line; the usual) or csv (RFC 4180).")
          Format format) {
    lines(portalWith(options, stream), "tests/renames", Map.of("stream", stream), RENAMES, format);
    return ExitCode.DONE;
  }

  private Portal portalWith(PortalOptions options, String stream) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Streams.needed(portal, stream);
    return portal;
  }

  private void lines(
      Portal portal, String path, Map<String, String> query, List<String> columns, Format format) {
    if (format == Format.csv) {
      terminal.line(String.join(",", columns));
    }
    portal.pages(path, query, page -> page.forEach(line -> print(line, columns, format)));
  }

  private void print(JsonNode line, List<String> columns, Format format) {
    if (format == Format.ndjson) {
      terminal.json(line);
    } else {
      terminal.line(
          columns.stream().map(name -> cell(line.path(name))).collect(Collectors.joining(",")));
    }
  }

  private static String cell(JsonNode value) {
    String text = value.isNull() || value.isMissingNode() ? "" : value.asText();
    boolean formula = value.isTextual() && !text.isEmpty() && FORMULA.indexOf(text.charAt(0)) >= 0;
    String safe = formula ? "'" + text : text;
    boolean quoted = safe.chars().anyMatch(c -> c == ',' || c == '"' || c == '\n' || c == '\r');
    return quoted ? "\"" + safe.replace("\"", "\"\"") + "\"" : safe;
  }
}
