package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.PipelineEnvironment;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.runs.Job;
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
  @Mixin private BundleOptions bundles = new BundleOptions();
  @Mixin private FailOn failOn = new FailOn();
  @Mixin private JobStatus jobStatus = new JobStatus();
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
    failOn.check();
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    List<Map.Entry<String, String>> fields = settings.fields(environment, file, clock.instant());
    PipelineEnvironment pipeline = new PipelineEnvironment(environment, file);
    Job.Status status = jobStatus.of(environment, pipeline);
    boolean wrong = status != null && status != Job.Status.PASSED;
    if (status != null) {
      fields.add(Map.entry("job_status", status.word()));
    }
    settings.variantsIn(files, fields, clock.instant());
    List<Path> paths = FilePatterns.find(files, settings.allowEmpty() || wrong, terminal);
    if (paths.isEmpty() && !wrong) {
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
    if (!wrong) {
      Tables.check(paths, fields);
    }
    OldFiles.warn(paths, pipeline.value("job-started"), terminal);
    List<UploadForm.FilePart> parts = parts(file, paths);
    bundles.add(fields, parts, terminal);
    return new Sender(
            portal,
            spooling.spool(environment, file),
            spooling.retryFor(environment, file),
            terminal,
            clock,
            options.json(),
            spoolOk,
            failOn)
        .send(fields, parts);
  }

  private List<UploadForm.FilePart> parts(SettingsFile file, List<Path> paths) {
    List<UploadForm.FilePart> parts = new ArrayList<>();
    paths.forEach(path -> parts.add(new UploadForm.FilePart("file", path, path.toString())));
    parts.forEach(part -> Sender.size(part.path()));
    NamedAttachments named = new NamedAttachments(terminal);
    (attach.isEmpty() ? file.list("attach") : attach).forEach(named::directory);
    paths.forEach(named::namedIn);
    parts.addAll(named.parts());
    return parts;
  }
}
