package org.vinecellar.client.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.core.runs.Job;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Runs the tests and sends what they left, whatever came of them. */
@Command(
    name = "exec",
    description = {
      "Run a command, send the result files that it wrote, and end with its own exit code.",
      "A command that fails and leaves nothing is a run too, and red. Only files written since the"
          + " start are sent."
    },
    mixinStandardHelpOptions = true)
final class ExecCommand implements Callable<Integer> {
  /** File systems may keep times in whole seconds. */
  private static final Duration GRAIN = Duration.ofSeconds(2);

  /** A process that a signal ended has this more. */
  private static final int SIGNALLED = 128;

  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private UploadSettings settings = new UploadSettings();
  @Mixin private SpoolOptions spooling = new SpoolOptions();

  @Option(
      names = "--files",
      paramLabel = "GLOB",
      required = true,
      description = "Result files that the command writes; can be given again.")
  private List<String> patterns = List.of();

  @Parameters(
      paramLabel = "COMMAND",
      arity = "1..*",
      description = "What to run, with its arguments, after --.")
  private List<String> command = List.of();

  private final Terminal terminal;
  private final Map<String, String> environment;
  private final InstantSource clock;

  ExecCommand(Terminal terminal, Map<String, String> environment, InstantSource clock) {
    this.terminal = terminal;
    this.environment = environment;
    this.clock = clock;
  }

  @Override
  public Integer call() throws InterruptedException {
    SettingsFile file = SettingsFile.near(Path.of(""));
    // What is wrong with the call shows before hours of tests, not after them.
    Portal portal = options.portal(environment, file);
    List<Map.Entry<String, String>> fields = settings.fields(environment, file, clock.instant());
    settings.variantsIn(patterns, fields, clock.instant());
    FilePatterns.check(patterns);
    Sender sender =
        new Sender(
            portal,
            spooling.spool(environment, file),
            spooling.retryFor(environment, file),
            terminal,
            clock,
            options.json(),
            false,
            new FailOn());
    Instant begun = clock.instant();
    Ran ran = run();
    Job.Status status =
        ran.cancelled
            ? Job.Status.CANCELLED
            : ran.code == 0 ? Job.Status.PASSED : Job.Status.FAILED;
    fields.add(Map.entry("job_status", status.word()));
    fields.add(Map.entry("job_command", shown()));
    fields.add(Map.entry("job_exit_code", Integer.toString(ran.code)));
    if (ran.code > SIGNALLED && ran.code < SIGNALLED + 65) {
      fields.add(Map.entry("job_signal", "signal " + (ran.code - SIGNALLED)));
    }
    if (fields.stream().noneMatch(field -> field.getKey().equals("at"))) {
      fields.add(Map.entry("made", begun.toString()));
    }
    long millis = Duration.between(begun, clock.instant()).toMillis();
    fields.add(Map.entry("job_ms", Long.toString(Math.min(millis, 999_999_999))));
    try {
      int sent = send(file, sender, fields, status, begun);
      return ran.code == 0 ? sent : ran.code;
    } catch (CommandException | PortalException | IOException e) {
      terminal.error(String.valueOf(e.getMessage()));
      return ran.code != 0 ? ran.code : ExitCode.of(e);
    }
  }

  /** How it ended. */
  private record Ran(int code, boolean cancelled) {}

  private Ran run() throws InterruptedException {
    try (Interruption interruption = new Interruption()) {
      Process process = new ProcessBuilder(command).inheritIO().start();
      interruption.passTo(process);
      return new Ran(process.waitFor(), interruption.came());
    } catch (IOException e) {
      terminal.error("the command “" + command.get(0) + "” could not be run: " + e.getMessage());
      return new Ran(127, false);
    }
  }

  private int send(
      SettingsFile file,
      Sender sender,
      List<Map.Entry<String, String>> fields,
      Job.Status status,
      Instant begun)
      throws IOException {
    boolean wrong = status != Job.Status.PASSED;
    List<Path> written = new ArrayList<>();
    int old = 0;
    for (Path path : FilePatterns.find(patterns, true, terminal)) {
      if (Files.getLastModifiedTime(path).toInstant().isBefore(begun.minus(GRAIN))) {
        old++;
      } else {
        written.add(path);
      }
    }
    if (old > 0) {
      terminal.note(
          old + (old == 1 ? " file is" : " files are") + " older than the command and not sent");
    }
    if (written.isEmpty() && !wrong && !settings.allowEmpty()) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND,
          "the command left no result file that matches "
              + String.join(", ", patterns)
              + ". Nothing was sent. If that is as it should be, add --allow-empty");
    }
    if (written.isEmpty() && !wrong) {
      terminal.note("nothing to send");
      return ExitCode.DONE;
    }
    List<UploadForm.FilePart> parts = new ArrayList<>();
    written.forEach(path -> parts.add(new UploadForm.FilePart("file", path, path.toString())));
    NamedAttachments named = new NamedAttachments(terminal);
    file.list("attach").forEach(named::directory);
    written.forEach(named::namedIn);
    parts.addAll(named.parts());
    return sender.send(fields, parts);
  }

  private String shown() {
    String words = String.join(" ", command);
    return words.length() > 2000 ? words.substring(0, 2000) : words;
  }
}
