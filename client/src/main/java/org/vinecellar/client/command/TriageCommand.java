package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.nio.file.Path;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
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
    description = "Explain failures: decide what caused one, or take a decision back.",
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND")
final class TriageCommand implements Runnable {
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
        spec.commandLine(), "name a command: triage decide or triage undo");
  }

  @Command(
      name = "decide",
      description = {
        "Explain a failing result, and with it the failures that share its cause:",
        "those of its run and of later runs, unless --only-this is given."
      },
      mixinStandardHelpOptions = true)
  int decide(
      @Mixin PortalOptions options,
      @Parameters(
              paramLabel = "STREAM#N",
              description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
          String run,
      @Option(
              names = "--test",
              paramLabel = "TEST",
              required = true,
              description =
                  "The test that failed, by its class and name: org.skerrow.FareTest#rounds; or its"
                      + " ID in the run.")
          String test,
      @Option(
              names = "--category",
              paramLabel = "NAME",
              required = true,
              description = "What is to blame, e.g. \"Product fault\".")
          String category,
      @Option(names = "--comment", paramLabel = "TEXT", description = "What it was; Markdown.")
          @Nullable String comment,
      @Option(names = "--only-this", description = "It explains this one result alone.")
          boolean single) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    JsonNode found = RunName.of(run).find(portal);
    String path = "runs/" + found.path("id").asText();
    String result = test;
    if (test.indexOf('#') >= 0) {
      result = portal.get(path + "/failing", Map.of("test", test)).path("result").asText();
    }
    ObjectNode body = JsonNodeFactory.instance.objectNode();
    body.put("category", category);
    body.put("comment", comment);
    body.put("scope", single ? "result" : "group");
    JsonNode decided = portal.post(path + "/results/" + Portal.encoded(result) + "/decision", body);
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
              + (carried == 0 ? "" : ", carried to " + carried + " more in this run"));
    }
    return ExitCode.DONE;
  }

  @Command(
      name = "undo",
      description = "Take a decision back, wherever it was carried.",
      mixinStandardHelpOptions = true)
  int undo(
      @Mixin PortalOptions options,
      @Parameters(paramLabel = "ID", description = "The decision.") String decision) {
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    portal.delete("decisions/" + Portal.encoded(decision), Map.of());
    if (options.json()) {
      terminal.json(JsonNodeFactory.instance.objectNode().put("undone", decision));
    } else {
      terminal.line("decision " + decision + " is taken back");
    }
    return ExitCode.DONE;
  }
}
