package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.FileVisitOption;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.history.ImportPlan;
import org.vinecellar.client.history.ImportPlan.Found;
import org.vinecellar.client.history.ImportPlan.PlannedPart;
import org.vinecellar.client.history.ImportPlan.PlannedRun;
import org.vinecellar.client.history.Layout;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ImportPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Delivery;
import org.vinecellar.core.ingest.UploadRequest;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Sends what has gathered over the years, in the order in which it was. */
@Command(
    name = "import",
    description = {
      "Send old result files, the oldest run first. Their paths tell what they are of.",
      "Doing it again changes nothing, and goes on where it was cut off."
    },
    mixinStandardHelpOptions = true)
final class ImportCommand implements Callable<Integer> {
  private static final int MOST = 1_000_000;

  /**
   * What is refused with these is wrong for every upload alike: a label, the token, the project.
   */
  private static final Set<Integer> OF_THE_CALL = Set.of(400, 401, 403, 404);

  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private RetryOptions retrying = new RetryOptions();

  @Parameters(paramLabel = "DIR", description = "The directory that they lie below.")
  private Path directory = Path.of("");

  @Option(
      names = "--layout",
      paramLabel = "PATTERN",
      required = true,
      description = {
        "What a path below DIR tells, as in '{stream}/{stream}/{at}/{part}.xml'. Also {run},",
        "{commit}, {branch} and {label.KEY}; * is anything in a name, ** anything at all."
      })
  private String layout = "";

  @Option(
      names = "--stream",
      paramLabel = "NAME",
      description = "The stream of files whose path does not tell it.")
  private @Nullable String stream;

  @Option(
      names = "--label",
      paramLabel = "KEY=VALUE",
      description = "A label of every run; can be given again.")
  private List<String> labels = List.of();

  @Option(
      names = "--column",
      paramLabel = "FIELD=HEADING",
      description = "What a column of CSV files holds; can be given again.")
  private List<String> columns = List.of();

  @Option(names = "--dry-run", description = "Show what would be sent, and send nothing.")
  private boolean dryRun;

  private final Terminal terminal;
  private final Map<String, String> environment;
  private Duration retryFor = Duration.ZERO;
  private final ArrayNode sent = JsonNodeFactory.instance.arrayNode();
  private final ArrayNode refused = JsonNodeFactory.instance.arrayNode();

  ImportCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = dryRun ? null : options.portal(environment, file);
    retryFor = retrying.time(environment, file);
    List<String> left = new ArrayList<>();
    List<PlannedRun> runs = ImportPlan.of(found(new Layout(layout), left), stream);
    ImportPrinter printer = new ImportPrinter(terminal);
    if (!options.json()) {
      printer.plan(runs, left);
    }
    if (runs.isEmpty()) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND,
          "no file below " + directory + " has a path like " + layout + ". Nothing was sent.");
    }
    if (portal != null) {
      for (PlannedRun run : runs) {
        int before = refused.size();
        for (PlannedPart part : run.parts()) {
          send(portal, run, part, printer);
        }
        if (refused.size() > before) {
          close(portal, run);
        }
      }
    }
    return end(runs, left, printer);
  }

  private List<Found> found(Layout pattern, List<String> left) {
    if (!Files.isDirectory(directory)) {
      throw new CommandException(ExitCode.NOTHING_FOUND, "there is no directory " + directory);
    }
    List<Found> found = new ArrayList<>();
    try (Stream<Path> all = Files.walk(directory, 40, new FileVisitOption[0])) {
      for (Path path : (Iterable<Path>) all.filter(Files::isRegularFile).sorted()::iterator) {
        String name = directory.relativize(path).toString().replace('\\', '/');
        Map<String, String> said = pattern.read(name).orElse(null);
        if (said == null) {
          left.add(name);
        } else if (found.size() == MOST) {
          throw new CommandException(
              ExitCode.WRONG_CALL, "more than " + MOST + " files match; import them in steps");
        } else {
          found.add(new Found(path, name, said, Files.getLastModifiedTime(path).toInstant()));
        }
      }
    } catch (IOException | java.io.UncheckedIOException e) {
      throw new CommandException(
          ExitCode.UNREADABLE, directory + " cannot be read: " + e + ". Nothing was sent.");
    }
    return found;
  }

  private void send(Portal portal, PlannedRun run, PlannedPart part, ImportPrinter printer) {
    String name = run.stream() + " of " + run.at() + part(part);
    if (part.files().size() > UploadRequest.MAX_FILES) {
      refuse(name, part.files().size() + " files are more than one upload takes; tell {part}");
      return;
    }
    List<UploadForm.FilePart> files = new ArrayList<>();
    part.files().forEach(path -> files.add(new UploadForm.FilePart("file", path, path.toString())));
    NamedAttachments named = new NamedAttachments(terminal);
    part.files().forEach(named::namedIn);
    files.addAll(named.parts());
    List<Map.Entry<String, String>> fields = fields(run, part);
    try {
      JsonNode receipt =
          new Delivery(portal, retryFor, terminal::note)
              .send(() -> new UploadForm(fields, files, bytes -> {}), () -> {});
      sent.add(receipt);
      if (!options.json()) {
        printer.receipt(receipt, run.at(), part.name());
      }
    } catch (PortalException e) {
      if (e.mayPass()) {
        throw new CommandException(
            ExitCode.NOT_REACHED,
            e.getMessage()
                + ". "
                + sent.size()
                + " uploads were taken; the same command goes on from there.");
      }
      if (OF_THE_CALL.contains(e.status())) {
        throw e;
      }
      refuse(name, String.valueOf(e.getMessage()));
    }
  }

  /** A run that lacks a part would wait for it. */
  private static void close(Portal portal, PlannedRun run) {
    JsonNode found = portal.get("runs", Map.of("stream", run.stream(), "key", run.key())).path(0);
    if (found.path("open").asBoolean()) {
      portal.post("runs/" + found.path("id").asLong() + "/close");
    }
  }

  private static String part(PlannedPart part) {
    return part.name() == null ? "" : ", " + part.name();
  }

  private void refuse(String name, String why) {
    terminal.error(name + ": " + why);
    refused.add(JsonNodeFactory.instance.objectNode().put("upload", name).put("error", why));
  }

  private List<Map.Entry<String, String>> fields(PlannedRun run, PlannedPart part) {
    List<Map.Entry<String, String>> fields = new ArrayList<>();
    fields.add(Map.entry("stream", run.stream()));
    fields.add(Map.entry("run", run.key()));
    fields.add(Map.entry("made", run.at().toString()));
    fields.add(Map.entry("expect_parts", Integer.toString(run.parts().size())));
    if (part.name() != null) {
      fields.add(Map.entry("part", part.name()));
    }
    part.said()
        .forEach(
            (key, value) -> {
              if (key.equals("commit") || key.equals("branch")) {
                fields.add(Map.entry(key, value));
              } else if (key.startsWith("label.")) {
                fields.add(Map.entry("label", key.substring(6) + "=" + value));
              }
            });
    labels.forEach(label -> fields.add(Map.entry("label", label)));
    columns.forEach(column -> fields.add(Map.entry("column", column)));
    return fields;
  }

  private int end(List<PlannedRun> runs, List<String> left, ImportPrinter printer) {
    if (options.json()) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("runs", runs.size()).put("leftOut", left.size());
      json.set("sent", sent);
      json.set("refused", refused);
      terminal.json(json);
    } else if (!dryRun) {
      printer.end(sent, refused.size());
    }
    return refused.isEmpty() ? ExitCode.DONE : ExitCode.UNREADABLE;
  }
}
