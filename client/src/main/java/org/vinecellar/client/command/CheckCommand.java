package org.vinecellar.client.command;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.vinecellar.client.output.ReportPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.PathVariants;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Reads result files without sending them. */
@Command(
    name = "check",
    description = "Read result files as the portal would, without sending them.",
    mixinStandardHelpOptions = true)
final class CheckCommand implements Callable<Integer> {
  @Parameters(paramLabel = "FILE", arity = "1..*", description = "Files, or quoted patterns.")
  private List<String> files = List.of();

  @Option(names = "--json", description = "Print one JSON object and nothing else.")
  private boolean json;

  @Option(names = "--allow-empty", description = "It is fine when no test is found.")
  private boolean allowEmpty;

  @Option(
      names = "--column",
      paramLabel = "FIELD=HEADING",
      description = "What a column of a CSV file holds; can be given again.")
  private List<String> columns = List.of();

  @Option(names = "--debug", description = "On a failure, print where in the program it arose.")
  private boolean debug;

  private final Terminal terminal;

  CheckCommand(Terminal terminal) {
    this.terminal = terminal;
  }

  private record PathFile(Path path) implements SourceFile {
    @Override
    public String name() {
      return path.toString();
    }

    @Override
    public InputStream open() throws IOException {
      return Files.newInputStream(path);
    }
  }

  private static final ResultSink NOWHERE =
      new ResultSink() {
        @Override
        public void first(int ordinal, TestResult result) {}

        @Override
        public void again(Again again) {}
      };

  @Override
  public Integer call() {
    List<PathFile> sources =
        FilePatterns.find(files, allowEmpty, terminal).stream().map(PathFile::new).toList();
    UploadReport report =
        UploadReader.read(
            sources,
            ReadLimits.DEFAULT,
            new UploadReader.Hints(
                CsvColumns.of(columns),
                Variant.NONE,
                PathVariants.of(FilePatterns.variants(files)),
                null,
                null),
            new AttachmentFiles<SourceFile>(),
            NOWHERE);
    ReportPrinter printer = new ReportPrinter(terminal);
    if (json) {
      printer.json(report);
    } else {
      printer.text(report);
    }
    if (!report.unreadable().isEmpty()) {
      return ExitCode.UNREADABLE;
    }
    return report.total().isNothing() && !allowEmpty ? ExitCode.NOTHING_FOUND : ExitCode.DONE;
  }

  boolean debug() {
    return debug;
  }
}
