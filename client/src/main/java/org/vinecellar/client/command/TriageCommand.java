package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.GroupPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Says what caused failures. */
@Command(
    name = "triage",
    description =
        "Explain failures: list and show their groups, decide what caused one, or take a decision back.",
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND")
final class TriageCommand implements Runnable {
  private static final Pattern RESULT = Pattern.compile("\\d{1,9}-\\d{1,9}");

  @Spec private CommandSpec spec = CommandSpec.create();

  private final Terminal terminal;
  private final Map<String, String> environment;

  TriageCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public void run() {
    throw new ParameterException(
        spec.commandLine(),
        "name a command: triage list, triage show, triage decide or triage undo");
  }

  @Command(
      name = "list",
      description =
          "List failure groups over all runs: the widest and latest unexplained ones first.",
      mixinStandardHelpOptions = true)
  int list(
      @Mixin PortalOptions options,
      @Option(
              names = "--show",
              paramLabel = "WHICH",
              defaultValue = "unsorted",
              description =
                  "unsorted (the usual), returned, mine, explained, tickets (that do not fit what is"
                      + " seen) or all.")
          String show,
      @Option(
              names = "--days",
              paramLabel = "N",
              description = "Only those that were seen in the last N days.")
          @Nullable Integer days,
      @Option(
              names = "--limit",
              paramLabel = "N",
              defaultValue = "20",
              description = "At most so many groups (20, up to 500).")
          int limit) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    Map<String, String> query = new HashMap<>();
    query.put("show", show);
    query.put("limit", Integer.toString(limit));
    if (days != null) {
      query.put("days", days.toString());
    }
    JsonNode desk = portal.get("groups", query);
    if (options.json()) {
      terminal.json(desk);
    } else {
      new GroupPrinter(terminal).desk(desk);
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "show",
      description = "Show a failure group: since when it is seen, where, and in which tests.",
      mixinStandardHelpOptions = true)
  int show(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "GROUP", description = "Its number.") long group) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode detail = portal.get("groups/" + group, Map.of());
    if (options.json()) {
      terminal.json(detail);
    } else {
      new GroupPrinter(terminal).whole(detail);
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "decide",
      description = {
        "Explain a failing result, and with it the failures that share its cause:",
        "those of its run and of later runs, unless --only-this is given.",
        "With --group, explain a whole group, with all that it had."
      },
      mixinStandardHelpOptions = true)
  int decide(
      @Mixin PortalOptions options,
      @Parameters(
              paramLabel = "STREAM#N",
              arity = "0..1",
              description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
          @Nullable String run,
      @Option(names = "--group", paramLabel = "GROUP", description = "In place of run and test.")
          @Nullable Long group,
      @Option(
              names = "--test",
              paramLabel = "TEST",
              description =
                  "The test that failed, by its class and name: org.skerrow.FareTest#rounds; or its"
                      + " ID in the run.")
          @Nullable String test,
      @Option(
              names = "--category",
              paramLabel = "NAME",
              required = true,
              description = "What is to blame, e.g. \"Product fault\".")
          String category,
      @Option(names = "--comment", paramLabel = "TEXT", description = "What it was; Markdown.")
          @Nullable String comment,
      @Option(
              names = "--ticket",
              paramLabel = "KEY",
              description = "Link the group to this entry of the tracker; may be repeated.")
          @Nullable List<String> tickets,
      @Option(
              names = "--until",
              paramLabel = "DAY",
              description = "With --group: runs that begin on that day or later (UTC) ask again.")
          @Nullable String until,
      @Option(
              names = "--until-closed",
              description =
                  "With --group: when its tickets are closed, what fails then asks again.")
          boolean untilClosed,
      @Option(names = "--only-this", description = "It explains this one result alone.")
          boolean single) {
    if (group == null && (run == null || test == null)) {
      throw new ParameterException(
          spec.commandLine(), "say which: a run and --test, or --group with its number");
    }
    if (group != null && (run != null || test != null || single)) {
      throw new ParameterException(
          spec.commandLine(), "--group stands alone: without a run, --test and --only-this");
    }
    if (group == null && (until != null || untilClosed)) {
      throw new ParameterException(
          spec.commandLine(), "--until and --until-closed go with --group: a whole group");
    }
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("category", category);
    body.put("comment", comment);
    JsonNode decided;
    if (group != null) {
      // What holds until they are closed needs them first.
      link(portal, group, category, tickets);
      if (until != null) {
        body.put("until", day(until));
      }
      if (untilClosed) {
        body.put("untilClosed", true);
      }
      decided = portal.post("groups/" + group + "/decision", body);
    } else {
      body.put("scope", single ? "result" : "group");
      String result = failing(portal, run, test);
      if (tickets != null) {
        // An entry that is not there is to be known before anything is decided.
        JsonNode cause = portal.get(result, Map.of()).path("result").path("cause");
        link(portal, cause.path("group").asLong(), category, cause.has("group") ? tickets : null);
      }
      decided = portal.post(result + "/decision", body);
    }
    if (options.json()) {
      terminal.json(decided);
    } else {
      int carried = decided.path("carried").asInt();
      terminal.line(
          "decision "
              + decided.path("id").asText()
              + " on group "
              + decided.path("group").asText()
              + ": "
              + category
              + (group != null
                  ? ", explains "
                      + carried
                      + (carried == 1 ? " result" : " results")
                      + " and what comes"
                  : carried == 0 ? "" : ", carried to " + carried + " more in this run"));
      if (decided.path("disputed").asBoolean()) {
        terminal.line(
            "disputed: another explanation of this group says something else, so that neither is"
                + " carried; take one back (vine triage undo), or explain the group anew (vine"
                + " triage decide --group)");
      }
    }
    return ExitCode.DONE;
  }

  private String day(String until) {
    try {
      return LocalDate.parse(until).atStartOfDay(ZoneOffset.UTC).toInstant().toString();
    } catch (DateTimeParseException e) {
      throw new ParameterException(
          spec.commandLine(), "--until is “" + until + "”; it takes a day, as 2027-01-05");
    }
  }

  /** Before a decision; not of a category that there is none of, of which the decision tells. */
  private static void link(
      Portal portal, long group, String category, @Nullable List<String> tickets) {
    if (tickets == null || !isCategory(portal, category)) {
      return;
    }
    for (String key : tickets) {
      JsonNode unused =
          portal.post(
              "groups/" + group + "/tickets",
              JsonNodeFactory.instance.objectNode().put("key", key));
    }
  }

  private static boolean isCategory(Portal portal, String name) {
    for (JsonNode one : portal.get("categories", Map.of())) {
      if (one.path("name").asText().equalsIgnoreCase(name)) {
        return true;
      }
    }
    return false;
  }

  private static String failing(Portal portal, @Nullable String run, @Nullable String test) {
    String named = test == null ? "" : test;
    if (named.indexOf('#') < 0 && !RESULT.matcher(named).matches()) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "--test is “"
              + named
              + "”; write it as class#name, such as org.skerrow.FareTest#rounds, or as the ID that"
              + " vine show prints, such as 1-42");
    }
    String path = "runs/" + RunName.of(run == null ? "" : run).find(portal).path("id").asText();
    String result =
        named.indexOf('#') < 0
            ? named
            : portal.get(path + "/failing", Map.of("test", named)).path("result").asText();
    return path + "/results/" + Portal.encoded(result);
  }

  @Command(
      name = "undo",
      description = "Take a decision back, wherever it was carried.",
      mixinStandardHelpOptions = true)
  int undo(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "ID", description = "The decision.") long decision) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    portal.delete("decisions/" + decision, Map.of());
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().put("undone", decision));
    } else {
      terminal.line("decision " + decision + " is taken back");
    }
    return ExitCode.DONE;
  }
}
