package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.output.NotePrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Shows or changes what is written about a run, or about the test of one of its results. */
@Command(
    name = "describe",
    description = {
      "Show or change what is written about a run, or about a test: description, labels, tags.",
      "Without a change it shows them, and who changed what."
    },
    mixinStandardHelpOptions = true)
final class DescribeCommand implements Callable<Integer> {
  private static final int TRIES = 3;

  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "STREAM#N",
      description = "The run, e.g. booking-api/nightly#12; without #N the latest.")
  private String run = "";

  @Option(
      names = "--result",
      paramLabel = "ID",
      description = "The test of this result instead of the run; vine show prints the IDs.")
  private @Nullable String result;

  @Option(
      names = "--text",
      paramLabel = "MARKDOWN",
      description = "The new description; an empty one takes it away.")
  private @Nullable String text;

  @Option(
      names = "--text-file",
      paramLabel = "FILE",
      description = "A file that holds the new description.")
  private @Nullable Path textFile;

  @Option(
      names = "--label",
      paramLabel = "KEY=VALUE",
      description = "Set a label; can be given again.")
  private List<String> labels = List.of();

  @Option(
      names = "--drop-label",
      paramLabel = "KEY",
      description = "Take a label away; can be given again.")
  private List<String> droppedLabels = List.of();

  @Option(names = "--tag", paramLabel = "WORD", description = "Add a tag; can be given again.")
  private List<String> tags = List.of();

  @Option(
      names = "--drop-tag",
      paramLabel = "WORD",
      description = "Take a tag away; can be given again.")
  private List<String> droppedTags = List.of();

  private final Terminal terminal;
  private final Map<String, String> environment;

  DescribeCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    String description = description();
    for (String label : labels) {
      if (label.indexOf('=') < 1) {
        throw new CommandException(
            ExitCode.WRONG_CALL, "the label “" + label + "” is not of the form key=value");
      }
    }
    Portal portal = options.portal(environment, SettingsFile.near(Path.of("")));
    RunName name = RunName.of(run);
    JsonNode found = name.find(portal);
    String id = found.path("id").asText();
    String title = name.stream() + "#" + found.path("number").asInt();
    String path = "runs/" + id;
    if (result != null) {
      JsonNode test = testOf(portal, id, result);
      path = "tests/" + test.path("testId").asText();
      title =
          test.path("name").asText()
              + test.path("parameters").asText("")
              + ", the test of "
              + result
              + " in "
              + title;
    }
    boolean changes =
        description != null
            || !(labels.isEmpty()
                && droppedLabels.isEmpty()
                && tags.isEmpty()
                && droppedTags.isEmpty());
    JsonNode note =
        changes
            ? change(portal, path + "/note", description)
            : portal.get(path + "/note", Map.of());
    JsonNode edits = portal.get(path + "/edits", Map.of());
    if (options.json()) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.set("note", note);
      json.set("edits", edits);
      terminal.json(json);
    } else {
      new NotePrinter(terminal).print(Terminal.clean(title), note, edits);
    }
    return ExitCode.DONE;
  }

  private @Nullable String description() {
    if (textFile == null) {
      return text;
    }
    if (text != null) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "give the description by --text or by --text-file, not by both");
    }
    try {
      return Files.readString(textFile);
    } catch (IOException e) {
      throw new CommandException(
          ExitCode.UNREADABLE, textFile + " cannot be read as UTF-8 text: " + e);
    }
  }

  private static JsonNode testOf(Portal portal, String runId, String result) {
    return portal
        .get("runs/" + runId + "/results/" + Portal.encoded(result), Map.of())
        .path("result");
  }

  /**
   * Labels and tags are changed one by one, so that it does no harm to do it again over what
   * somebody else has just written. A description is not written over one that was not there when
   * the command began.
   */
  private JsonNode change(Portal portal, String path, @Nullable String description) {
    for (int attempt = 1; ; attempt++) {
      Portal.Tagged before = portal.tagged(path);
      ObjectNode note = before.body().deepCopy();
      if (description != null) {
        note.put("description", description);
      }
      edit(note);
      try {
        return portal.put(path, before.tag(), note);
      } catch (PortalException e) {
        if (!e.slug().equals("edited-meanwhile") || description != null || attempt == TRIES) {
          throw e;
        }
      }
    }
  }

  private void edit(ObjectNode note) {
    ObjectNode all = note.withObject("/labels");
    all.remove(droppedLabels);
    for (String label : labels) {
      int at = label.indexOf('=');
      all.put(label.substring(0, at), label.substring(at + 1));
    }
    Set<String> words = new LinkedHashSet<>();
    note.path("tags").forEach(tag -> words.add(tag.asText()));
    words.removeAll(droppedTags);
    words.addAll(tags);
    ArrayNode array = note.putArray("tags");
    words.forEach(array::add);
  }
}
