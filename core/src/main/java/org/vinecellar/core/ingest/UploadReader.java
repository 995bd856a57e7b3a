package org.vinecellar.core.ingest;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.attachments.AttachmentMarks;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.SuiteHeader;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;
import org.vinecellar.core.results.Variant;

/** Reads all files of an upload as one: a test is one test in whichever of them it stands. */
public final class UploadReader {
  /** Properties of the whole that are kept. */
  private static final int MAX_PROPERTIES = 200;

  private static final int MAX_PROPERTY_CHARS = 1000;

  private UploadReader() {}

  /**
   * What the sender says of what files do not tell.
   *
   * @param columns what the columns of tables hold
   * @param variant of all tests; where a file tells the same word of a test, the file's counts
   */
  public record Hints(CsvColumns columns, Variant variant) {
    /** Nothing. */
    public static final Hints NONE = new Hints(CsvColumns.NONE, Variant.NONE);
  }

  /** The same without a word about tables, and without attachments. */
  public static UploadReport read(
      List<? extends SourceFile> files, ReadLimits limits, ResultSink sink) {
    return read(files, limits, Hints.NONE, new AttachmentFiles<>(), sink);
  }

  /**
   * Reads every file, also after one that cannot be read, so that the report names all faults. When
   * {@link UploadReport#unreadable()} is not empty the caller drops what the sink got.
   *
   * @param attachments files that came beside them; results claim them
   * @throws CellarException {@code INTERNAL} when a file's stream fails
   */
  public static UploadReport read(
      List<? extends SourceFile> files,
      ReadLimits limits,
      Hints hints,
      AttachmentFiles<? extends SourceFile> attachments,
      ResultSink sink) {
    List<Tally> tallies = files.stream().map(file -> new Tally()).toList();
    Assembler assembler = new Assembler(sink, tallies);
    Map<String, String> properties = new LinkedHashMap<>();
    List<Draft> drafts = new ArrayList<>();
    for (int i = 0; i < files.size(); i++) {
      assembler.beginFile(i, files.get(i).name());
      drafts.add(readOne(files.get(i), limits, hints, attachments, assembler, properties));
    }
    List<FileReport> reports = new ArrayList<>();
    for (int i = 0; i < files.size(); i++) {
      Draft draft = drafts.get(i);
      reports.add(
          new FileReport(
              files.get(i).name(),
              draft.format,
              draft.error == null ? tallies.get(i).counts() : Counts.NONE,
              draft.problems,
              draft.brokenOff,
              draft.error));
    }
    return new UploadReport(reports, properties);
  }

  private static final class Draft {
    private @Nullable String format;
    private @Nullable String error;
    private boolean brokenOff;
    private final List<String> problems = new ArrayList<>();
  }

  private static Draft readOne(
      SourceFile file,
      ReadLimits limits,
      Hints hints,
      AttachmentFiles<? extends SourceFile> attachments,
      Assembler assembler,
      Map<String, String> properties) {
    Draft draft = new Draft();
    int before = assembler.seenCases();
    CaseHandler handler =
        new CaseHandler() {
          @Override
          public void onFormat(String format) {
            assembler.format(format);
          }

          @Override
          public void onCase(TestResult reported, Repeat repeat) {
            TestResult claimed = attachments.claim(AttachmentMarks.taken(reported));
            Variant whole = hints.variant;
            assembler.add(
                whole.isNone()
                    ? claimed
                    : claimed.ofTest(claimed.test().in(whole.with(claimed.test().variant()))),
                repeat);
          }

          @Override
          public void onHeader(SuiteHeader header) {
            assembler.header(header);
          }

          @Override
          public void onProperty(String name, String value) {
            if (properties.size() < MAX_PROPERTIES && name.length() <= MAX_PROPERTY_CHARS) {
              properties.putIfAbsent(name, cut(value));
            }
          }

          @Override
          public void onProblem(String problem) {
            draft.problems.add(problem);
          }

          @Override
          public void onBrokenOff(String how) {
            draft.brokenOff = true;
            draft.problems.add("broken off: " + how);
          }
        };
    try (InputStream raw = file.open();
        InputStream content = Formats.unpacked(raw)) {
      draft.format = Formats.read(content, file.name(), limits, hints.columns, handler);
      if (assembler.seenCases() == before) {
        draft.problems.add("holds no test");
      }
    } catch (UnreadableFileException e) {
      draft.error = e.text();
    } catch (java.util.zip.ZipException | java.io.EOFException e) {
      draft.error = "is gzip by its first bytes, but is damaged or cut off: " + e.getMessage();
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the file " + file.name() + " could not be read: " + e, e);
    }
    draft.problems.addAll(assembler.endFile());
    return draft;
  }

  private static String cut(String value) {
    return value.length() <= MAX_PROPERTY_CHARS
        ? value
        : value.substring(0, MAX_PROPERTY_CHARS) + "…";
  }
}
