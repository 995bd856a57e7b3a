package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.InputStream;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.time.InstantSource;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.core.filters.Nearest;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** The root of all commands, and the one place where a failure becomes a message and a code. */
@Command(
    name = "vine",
    description = "Sends test results to a Vine Cellar portal, and shows what became of them.",
    version = "vine 0.1.0",
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND",
    footer = {
      "",
      "Exit codes: 0 done; 2 wrong call; 3 no file matched or no test found;",
      "4 a file could not be read; 5 refused by the portal; 6 portal not reachable (vine push keeps the upload on disk).",
      "VINE_URL and VINE_TOKEN name the portal and the token; vine.yaml holds the rest."
    })
public final class VineCommand implements Runnable {
  private static final List<String> NAMES =
      List.of(
          "push",
          "pipe",
          "exec",
          "check",
          "close",
          "flush",
          "import",
          "runs",
          "tests",
          "show",
          "groups",
          "history",
          "flaky",
          "filters",
          "quarantine",
          "plan",
          "fold",
          "wait",
          "triage",
          "export",
          "report",
          "describe",
          "overrule",
          "rename",
          "move",
          "delete");
  private static final String COMMANDS =
      String.join(", ", NAMES.subList(0, NAMES.size() - 1)) + " and " + NAMES.get(NAMES.size() - 1);

  @Spec private CommandSpec spec = CommandSpec.create();

  private static final Pattern NO_NUMBER = Pattern.compile("is not an? (?:int|long|double)$");

  private VineCommand() {}

  @Override
  public void run() {
    throw new CommandLine.ParameterException(spec.commandLine(), "name a command: " + COMMANDS);
  }

  /**
   * Runs one call.
   *
   * @param environment where VINE_URL and VINE_TOKEN are looked for
   * @return the exit code
   */
  public static int run(
      String[] args, PrintStream out, PrintStream err, Map<String, String> environment) {
    return run(args, System.in, out, err, environment);
  }

  /**
   * Runs one call that may read what is piped into it.
   *
   * @param environment where VINE_URL and VINE_TOKEN are looked for
   * @return the exit code
   */
  public static int run(
      String[] given,
      InputStream in,
      PrintStream out,
      PrintStream err,
      Map<String, String> environment) {
    String[] args = helped(given);
    PrintWriter outWriter = new PrintWriter(out, true, StandardCharsets.UTF_8);
    PrintWriter errWriter = new PrintWriter(err, true, StandardCharsets.UTF_8);
    Terminal terminal = new Terminal(outWriter, errWriter, System.console() != null, environment);
    CommandLine line = new CommandLine(new VineCommand());
    for (String name : wanted(args)) {
      line.addSubcommand(command(name, terminal, environment, in));
    }
    line.setOut(outWriter)
        .setErr(errWriter)
        .setColorScheme(
            CommandLine.Help.defaultColorScheme(
                terminal.colour() ? CommandLine.Help.Ansi.ON : CommandLine.Help.Ansi.OFF))
        .setExpandAtFiles(false)
        .setParameterExceptionHandler((e, parsed) -> wrongCall(e, terminal))
        .setExecutionExceptionHandler((e, commandLine, parsed) -> failed(e, terminal, args));
    int code = line.execute(args);
    outWriter.flush();
    errWriter.flush();
    return code;
  }

  /** {@code help push} is {@code push --help}. */
  private static String[] helped(String[] args) {
    if (args.length == 0 || !args[0].equals("help")) {
      return args;
    }
    return args.length == 1 ? new String[] {"--help"} : new String[] {args[1], "--help"};
  }

  /** Whether an option of ours is given; what stands behind {@code --} is another's. */
  private static boolean has(String[] args, String option) {
    for (String arg : args) {
      if (arg.equals(option) || arg.equals("--")) {
        return arg.equals(option);
      }
    }
    return false;
  }

  /**
   * The one that is called; all of them where none is, as for help. What is not made costs no time.
   */
  private static List<String> wanted(String[] args) {
    return args.length > 0 && NAMES.contains(args[0]) ? List.of(args[0]) : NAMES;
  }

  private static Object command(
      String name, Terminal terminal, Map<String, String> environment, InputStream in) {
    return switch (name) {
      case "push" -> new PushCommand(terminal, environment, InstantSource.system());
      case "pipe" -> new PipeCommand(terminal, environment, InstantSource.system(), in);
      case "exec" -> new ExecCommand(terminal, environment, InstantSource.system());
      case "check" -> new CheckCommand(terminal);
      case "close" -> new CloseCommand(terminal, environment);
      case "flush" -> new FlushCommand(terminal, environment, InstantSource.system());
      case "import" -> new ImportCommand(terminal, environment);
      case "runs" -> new RunsCommand(terminal, environment);
      case "tests" -> new TestsCommand(terminal, environment);
      case "show" -> new ShowCommand(terminal, environment);
      case "wait" -> new WaitCommand(terminal, environment);
      case "groups" -> new GroupsCommand(terminal, environment);
      case "history" -> new HistoryCommand(terminal, environment);
      case "flaky" -> new FlakyCommand(terminal, environment);
      case "filters" -> new FiltersCommand(terminal, environment);
      case "quarantine" -> new QuarantineCommand(terminal, environment);
      case "plan" -> new PlanCommand(terminal, environment);
      case "fold" -> new FoldCommand(terminal, environment);
      case "triage" -> new TriageCommand(terminal, environment);
      case "export" -> new ExportCommand(terminal, environment);
      case "report" -> new ReportCommand(terminal, environment);
      case "describe" -> new DescribeCommand(terminal, environment);
      case "overrule" -> new OverruleCommand(terminal, environment);
      case "rename" -> new RenameCommand(terminal, environment);
      case "move" -> new MoveCommand(terminal, environment);
      case "delete" -> new DeleteCommand(terminal, environment);
      default -> throw new IllegalArgumentException(name);
    };
  }

  /** Short, since it ends up in a job's log. */
  private static int wrongCall(CommandLine.ParameterException e, Terminal terminal) {
    if (e instanceof CommandLine.UnmatchedArgumentException unmatched
        && e.getCommandLine().getParent() == null
        && !unmatched.isUnknownOption()) {
      String given = unmatched.getUnmatched().get(0);
      terminal.error(
          "there is no command “"
              + given
              + "”"
              + Nearest.hint(given, NAMES)
              + " There are "
              + COMMANDS);
      return ExitCode.WRONG_CALL;
    }
    terminal.error(
        NO_NUMBER.matcher(String.valueOf(e.getMessage())).replaceFirst("is not a number"));
    if (!CommandLine.UnmatchedArgumentException.printSuggestions(e, e.getCommandLine().getErr())) {
      terminal.note("see " + e.getCommandLine().getCommandSpec().qualifiedName() + " --help");
    }
    return ExitCode.WRONG_CALL;
  }

  private static int failed(Exception e, Terminal terminal, String[] args) {
    int code = ExitCode.of(e);
    String message = e.getMessage() == null ? e.toString() : e.getMessage();
    terminal.error(message);
    if (e instanceof PortalException refused) {
      refused.files().stream()
          .skip(1)
          .forEach(file -> terminal.note(file.name() + " " + file.error()));
    }
    if (has(args, "--json")) {
      ObjectNode json = JsonNodeFactory.instance.objectNode();
      json.put("error", message).put("exitCode", code);
      if (e instanceof PortalException refused && !refused.files().isEmpty()) {
        ArrayNode files = json.putArray("files");
        refused
            .files()
            .forEach(file -> files.addObject().put("file", file.name()).put("error", file.error()));
      }
      terminal.json(json);
    }
    if (has(args, "--debug")) {
      terminal.trace(e);
    }
    return code;
  }
}
