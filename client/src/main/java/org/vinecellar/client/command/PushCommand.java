package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ReceiptPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Delivery;
import org.vinecellar.client.spool.Spool;
import org.vinecellar.core.ingest.UploadRequest;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Sends result files; when the portal is away, they wait on disk. */
@Command(
    name = "push",
    description = "Send result files; all of them are kept, or none.",
    mixinStandardHelpOptions = true)
final class PushCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private UploadSettings settings = new UploadSettings();
  @Mixin private SpoolOptions spooling = new SpoolOptions();

  @Parameters(
      paramLabel = "FILE",
      arity = "1..*",
      description = "Files, or quoted patterns such as 'target/surefire-reports/*.xml'.")
  private List<String> files = List.of();

  @Option(
      names = "--attach",
      paramLabel = "DIR",
      description =
          "Send the files below it too; each goes to the test that names it, or whose name it has."
              + " Can be given again.")
  private List<String> attach = List.of();

  @Option(
      names = "--spool-ok",
      description = "End with 0 when the upload waits on disk, so that the job goes on.")
  private boolean spoolOk;

  private final Terminal terminal;
  private final Map<String, String> environment;
  private final InstantSource clock;

  PushCommand(Terminal terminal, Map<String, String> environment, InstantSource clock) {
    this.terminal = terminal;
    this.environment = environment;
    this.clock = clock;
  }

  @Override
  public Integer call() {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    List<Map.Entry<String, String>> fields = settings.fields(environment, file);
    List<Path> paths = FilePatterns.find(files, settings.allowEmpty(), terminal);
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
    return send(portal, file, fields, parts(file, paths));
  }

  private List<UploadForm.FilePart> parts(SettingsFile file, List<Path> paths) {
    List<UploadForm.FilePart> parts = new ArrayList<>();
    paths.forEach(path -> parts.add(new UploadForm.FilePart("file", path, path.toString())));
    parts.forEach(part -> size(part.path()));
    NamedAttachments named = new NamedAttachments(terminal);
    (attach.isEmpty() ? file.list("attach") : attach).forEach(named::directory);
    paths.forEach(named::namedIn);
    parts.addAll(named.parts());
    return parts;
  }

  private int send(
      Portal portal,
      SettingsFile file,
      List<Map.Entry<String, String>> fields,
      List<UploadForm.FilePart> parts) {
    long total = parts.stream().mapToLong(part -> size(part.path())).sum();
    Terminal.Progress progress = terminal.progress("sending", total, options.json());
    Spool spool = spooling.spool(environment, file);
    List<Spool.Entry> waiting = new ArrayList<>();
    Delivery delivery = new Delivery(portal, spooling.retryFor(environment, file), terminal::note);
    JsonNode receipt;
    try {
      receipt =
          delivery.send(
              () -> new UploadForm(fields, parts, progress),
              () -> waiting.add(keep(spool, portal, fields, parts)));
    } catch (PortalException e) {
      progress.end();
      if (waiting.isEmpty() || !Delivery.mayPass(e)) {
        waiting.forEach(entry -> remove(spool, entry));
        throw e;
      }
      return waits(spool, e);
    }
    progress.end();
    waiting.forEach(entry -> remove(spool, entry));
    if (options.json()) {
      terminal.json(receipt);
    } else {
      new ReceiptPrinter(terminal).print(receipt);
      others(spool);
    }
    return ExitCode.DONE;
  }

  private Spool.Entry keep(
      Spool spool,
      Portal portal,
      List<Map.Entry<String, String>> fields,
      List<UploadForm.FilePart> parts) {
    try {
      return spool.add(portal.base(), portal.project(), fields, parts, clock.instant());
    } catch (IOException e) {
      throw new CommandException(
          ExitCode.NOT_REACHED,
          "the portal is away, and the upload could not be kept in "
              + spool.directory()
              + " either: "
              + e
              + ". Nothing was sent. The results are still in their files.");
    }
  }

  private int waits(Spool spool, PortalException e) {
    String message = String.valueOf(e.getMessage());
    terminal.error(message);
    terminal.note(
        "The upload waits in "
            + spool.directory()
            + ". Send it with vine flush when the portal is"
            + " back.");
    if (options.json()) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("error", message).put("spooled", true);
      json.put("exitCode", spoolOk ? ExitCode.DONE : ExitCode.NOT_REACHED);
      terminal.json(json);
    }
    return spoolOk ? ExitCode.DONE : ExitCode.NOT_REACHED;
  }

  private void others(Spool spool) {
    try {
      int waiting = spool.entries().size();
      if (waiting > 0) {
        terminal.note(
            waiting
                + (waiting == 1 ? " upload waits in " : " uploads wait in ")
                + spool.directory()
                + "; send with vine flush");
      }
    } catch (IOException e) {
      terminal.note("what waits in " + spool.directory() + " cannot be read: " + e);
    }
  }

  private void remove(Spool spool, Spool.Entry entry) {
    try {
      spool.remove(entry);
    } catch (IOException e) {
      terminal.note(entry.path() + " could not be removed; sending it again changes nothing: " + e);
    }
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
}
