package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.charset.MalformedInputException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.SheetPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What happened over a time. */
@Command(
    name = "report",
    description = {
      "Tell what happened over a time: summary (what ran), tests (each test, and what it threw),",
      "breakdown (side by side, by labels) or people. As words here, or as a file."
    },
    mixinStandardHelpOptions = true)
final class ReportCommand implements Callable<Integer> {
  private static final int LARGEST_TEMPLATE = 1 << 20;
  private static final int SHOWN = 25;

  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "REPORT",
      defaultValue = "summary",
      description = "summary (the usual), tests, breakdown or people.")
  private String report = "summary";

  @Option(
      names = "--days",
      paramLabel = "N",
      description = "Of so many latest days, today with them (30).")
  private @Nullable Integer days;

  @Option(
      names = "--from",
      paramLabel = "DAY",
      description = "From that day of UTC on: 2026-11-01.")
  private @Nullable String from;

  @Option(names = "--to", paramLabel = "DAY", description = "With --from: to the end of that day.")
  private @Nullable String to;

  @Option(
      names = "--filter",
      paramLabel = "FILTER",
      description = "Only of runs that fit, as in 'stream ew \"nightly\"'.")
  private @Nullable String filter;

  @Mixin private SavedOption saved = new SavedOption();

  @Option(
      names = "--by",
      paramLabel = "WORDS",
      description = {
        "Of a breakdown, by what runs are told apart: stream, branch, label.KEY, up to three with",
        "commas between (label.env)."
      })
  private @Nullable String by;

  @Option(
      names = "--format",
      paramLabel = "FORMAT",
      description = {
        "html (one page that needs no network), xlsx, csv (one table), md or json; otherwise as the",
        "name of --out ends, or words."
      })
  private @Nullable Format format;

  @Option(
      names = "--table",
      paramLabel = "WORD",
      description = "Of csv, which of the tables: as streams, tickets, types.")
  private @Nullable String table;

  @Option(
      names = "--template",
      paramLabel = "FILE",
      description = "In the shape of a template in the Mustache language.")
  private @Nullable Path template;

  @Option(
      names = "--escape",
      paramLabel = "HOW",
      description =
          "With --template, how texts are made harmless: none (the usual), html, json, csv.")
  private @Nullable String escape;

  @Option(names = "--out", paramLabel = "FILE", description = "Write it there.")
  private @Nullable Path out;

  private final Terminal terminal;
  private final Map<String, String> environment;

  ReportCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  /** How a report is written. */
  enum Format {
    html,
    xlsx,
    csv,
    md,
    json
  }

  @Override
  public Integer call() {
    Format form = form();
    check(form);
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Map<String, String> query = query();
    String path = "reports/" + Portal.encoded(report);
    if (template != null) {
      ObjectNode body = JsonNodeFactory.instance.objectNode().put("template", read(template));
      if (escape != null) {
        body.put("escape", escape);
      }
      write(portal.file(path + "/shaped", query, body));
    } else if (form == null) {
      query.put("rows", Integer.toString(SHOWN));
      new SheetPrinter(terminal).report(portal.get(path, query));
    } else {
      if (table != null) {
        query.put("table", table);
      }
      write(portal.file(path + "/report." + form.name(), query, null));
    }
    return ExitCode.DONE;
  }

  private @Nullable Format form() {
    if (format != null || template != null) {
      return format;
    }
    if (out == null) {
      return options.json() ? Format.json : null;
    }
    String name = String.valueOf(out.getFileName()).toLowerCase(Locale.ROOT);
    return Arrays.stream(Format.values())
        .filter(one -> name.endsWith("." + one.name()))
        .findFirst()
        .orElseThrow(
            () ->
                wrong(
                    "the name of --out tells no format; let it end in .html, .xlsx, .csv, .md or"
                        + " .json, or say --format"));
  }

  private void check(@Nullable Format form) {
    if (template != null && format != null) {
      throw wrong("--template makes a shape of its own; leave --format out");
    }
    if (template == null && escape != null) {
      throw wrong("--escape goes with --template");
    }
    if (table != null && form != Format.csv) {
      throw wrong("--table goes with --format csv; the others have all tables");
    }
    if (form == Format.xlsx && out == null) {
      throw wrong("a spreadsheet is nothing to read here; say --out FILE");
    }
    if (days != null && (from != null || to != null)) {
      throw wrong("say --from and --to, or --days, not both");
    }
    if (by != null && !report.equals("breakdown")) {
      throw wrong("--by goes with the report breakdown");
    }
  }

  private Map<String, String> query() {
    Map<String, String> query = new LinkedHashMap<>();
    if (days != null) {
      query.put("days", days.toString());
    }
    if (from != null) {
      query.put("from", from);
    }
    if (to != null) {
      query.put("to", to);
    }
    if (by != null) {
      query.put("by", by);
    }
    String fitting = saved.with(filter);
    if (fitting != null) {
      query.put("filter", fitting);
    }
    return query;
  }

  private static String read(Path file) {
    try {
      if (Files.size(file) > LARGEST_TEMPLATE) {
        throw wrong(file + " is larger than a template can be");
      }
      return Files.readString(file);
    } catch (MalformedInputException e) {
      throw wrong(file + " is no text in UTF-8");
    } catch (IOException e) {
      throw wrong(file + " cannot be read: " + e.getMessage());
    }
  }

  private void write(byte[] bytes) {
    if (out == null) {
      String text = new String(bytes, StandardCharsets.UTF_8);
      terminal.line(text.endsWith("\n") ? text.substring(0, text.length() - 1) : text);
      return;
    }
    try {
      Files.write(out, bytes);
    } catch (IOException e) {
      throw wrong(out + " cannot be written: " + e.getMessage());
    }
    terminal.note("wrote " + out);
  }

  private static CommandException wrong(String message) {
    return new CommandException(ExitCode.WRONG_CALL, message);
  }
}
