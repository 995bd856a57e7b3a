package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ReceiptPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.core.ingest.UploadRequest;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Sends result files. */
@Command(
    name = "push",
    description = "Send result files; all of them are kept, or none.",
    mixinStandardHelpOptions = true)
final class PushCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();

  @Parameters(
      paramLabel = "FILE",
      arity = "1..*",
      description = "Files, or quoted patterns such as 'target/surefire-reports/*.xml'.")
  private List<String> files = List.of();

  @Option(
      names = "--stream",
      required = true,
      paramLabel = "NAME",
      description = "The stream that the run belongs to, e.g. booking-api/nightly.")
  private String stream = "";

  @Option(
      names = "--run",
      paramLabel = "KEY",
      description = "What all parts of one run share, e.g. the build's number.")
  private @Nullable String run;

  @Option(
      names = "--expect-parts",
      paramLabel = "N",
      description = "Close the run when it has so many parts; else it closes after a silence.")
  private @Nullable Integer expectParts;

  @Option(names = "--part", paramLabel = "NAME", description = "The name of this part of the run.")
  private @Nullable String part;

  @Option(names = "--commit", paramLabel = "REV", description = "The revision that was tested.")
  private @Nullable String commit;

  @Option(names = "--branch", paramLabel = "NAME", description = "The branch it is on.")
  private @Nullable String branch;

  @Option(names = "--build-url", paramLabel = "URL", description = "The page of the job.")
  private @Nullable String buildUrl;

  @Option(
      names = "--label",
      paramLabel = "KEY=VALUE",
      description = "A label of the run; can be given again.")
  private List<String> labels = List.of();

  @Option(
      names = "--allow-empty",
      description = "It is fine when no file matches, or no test is in them.")
  private boolean allowEmpty;

  private final Terminal terminal;
  private final Map<String, String> environment;

  PushCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() {
    var portal = options.portal(environment);
    List<Path> paths = FilePatterns.find(files, allowEmpty, terminal);
    if (paths.isEmpty()) {
      terminal.note("nothing to send");
      if (options.json()) {
        terminal.json(JsonNodeFactory.instance.objectNode().put("sent", false));
      }
      return ExitCode.DONE;
    }
    if (paths.size() > UploadRequest.MAX_FILES) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          paths.size()
              + " files are more than one upload takes ("
              + UploadRequest.MAX_FILES
              + "); send them in parts, each with the same --run KEY. Nothing was sent.");
    }
    long total = paths.stream().mapToLong(PushCommand::size).sum();
    Terminal.Progress progress = terminal.progress("sending", total, options.json());
    UploadForm form =
        new UploadForm(
            fields(),
            paths.stream().map(p -> new UploadForm.FilePart(p, p.toString())).toList(),
            progress);
    JsonNode receipt = portal.upload(form);
    progress.end();
    if (options.json()) {
      terminal.json(receipt);
    } else {
      new ReceiptPrinter(terminal).print(receipt);
    }
    return ExitCode.DONE;
  }

  private static long size(Path path) {
    try {
      if (!Files.isReadable(path)) {
        throw new CommandException(
            ExitCode.UNREADABLE, path + " may not be read by this user. Nothing was sent.");
      }
      return Files.size(path);
    } catch (IOException e) {
      throw new CommandException(ExitCode.UNREADABLE, path + " cannot be read: " + e);
    }
  }

  private List<Map.Entry<String, String>> fields() {
    List<Map.Entry<String, String>> fields = new ArrayList<>();
    fields.add(Map.entry("stream", stream));
    add(fields, "run", run);
    add(fields, "part", part);
    add(fields, "expect_parts", expectParts == null ? null : expectParts.toString());
    add(fields, "commit", commit);
    add(fields, "branch", branch);
    add(fields, "build_url", buildUrl);
    labels.forEach(label -> fields.add(Map.entry("label", label)));
    if (allowEmpty) {
      fields.add(Map.entry("allow_empty", "true"));
    }
    return fields;
  }

  private static void add(
      List<Map.Entry<String, String>> fields, String name, @Nullable String value) {
    if (value != null) {
      fields.add(Map.entry(name, value));
    }
  }
}
