package org.vinecellar.core.ingest;

import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.attachments.AttachmentMarks;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailedSetUp;
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
import org.vinecellar.core.runs.Job;

/** Reads all files of an upload as one: a test is one test in whichever of them it stands. */
public final class UploadReader {
  /** Properties of the whole that are kept. */
  private static final int MAX_PROPERTIES = 200;

  private static final int MAX_PROPERTY_CHARS = 1000;

  /** The format of files that are passed over. */
  private static final String NO_RESULTS = "no-results";

  private UploadReader() {}

  /**
   * What the sender says of what files do not tell.
   *
   * @param columns what the columns of tables hold
   * @param variant of all tests; where a file tells the same word of a test, the file's counts
   * @param paths how paths tell more of it; where that tells the same word, it counts
   * @param job how it ended; null when not told
   * @param arrived when the files did; null when that says nothing
   */
  public record Hints(
      CsvColumns columns,
      Variant variant,
      PathVariants paths,
      @Nullable Job job,
      @Nullable Instant arrived) {
    /** Nothing. */
    public static final Hints NONE = of(CsvColumns.NONE);

    /** What tables hold, and nothing else. */
    public static Hints of(CsvColumns columns) {
      return new Hints(columns, Variant.NONE, PathVariants.NONE, null, null);
    }

    /** Whether files may well be empty, or half, and that shall not keep back the rest. */
    private boolean jobWentWrong() {
      return job != null && job.wentWrong();
    }
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
    tellOfTwice(reports, drafts);
    Tally beside = new Tally();
    TestResult wrong = aroundTests(hints.job, reports);
    if (wrong != null) {
      assembler.beside(wrong, beside);
    }
    Set<Integer> dated =
        IntStream.range(0, drafts.size())
            .filter(i -> drafts.get(i).dated.isDated())
            .boxed()
            .collect(Collectors.toSet());
    return new UploadReport(reports, properties, dated, beside.counts());
  }

  /** One run in two formats counts twice, unless its suites have the same names in both. */
  private static void tellOfTwice(List<FileReport> reports, List<Draft> drafts) {
    Map<String, Told> formats = new LinkedHashMap<>();
    for (int i = 0; i < reports.size(); i++) {
      String format = reports.get(i).format();
      if (format != null && !reports.get(i).counts().isNothing()) {
        Told told = formats.computeIfAbsent(format, name -> new Told());
        told.counts = told.counts.plus(reports.get(i).counts());
        told.names.seeAll(drafts.get(i).names);
      }
    }
    for (int i = 0; i < reports.size(); i++) {
      FileReport report = reports.get(i);
      Told own = report.format() == null ? null : formats.get(report.format());
      for (Map.Entry<String, Told> other : formats.entrySet()) {
        if (own != null && own != other.getValue() && own.isLike(other.getValue())) {
          reports.set(
              i,
              report.with(
                  "as many tests, most of them of the same names, stand in "
                      + other.getKey()
                      + ": if that is the same run in another format, send one of the two"));
          break;
        }
      }
    }
  }

  /** What an upload tells in one format. */
  private static final class Told {
    private Counts counts = Counts.NONE;
    private final NameSample names = new NameSample();

    boolean isLike(Told other) {
      int apart = Math.abs(failing() - other.failing());
      return counts.tests() == other.counts.tests()
          && apart <= unsure() + other.unsure()
          && names.isLike(other.names);
    }

    private int failing() {
      return counts.failed() + counts.errored();
    }

    /** What one format calls failed, another calls not reached, or a set-up. */
    private int unsure() {
      return counts.notReached() + counts.setUps();
    }
  }

  /** What no result tells: the job failed, or ended before its time. Null for nothing. */
  private static @Nullable TestResult aroundTests(@Nullable Job job, List<FileReport> reports) {
    Counts counts = reports.stream().map(FileReport::counts).reduce(Counts.NONE, Counts::plus);
    if (counts.failed() + counts.errored() + counts.setUps() > 0) {
      return null;
    }
    if (job != null && job.wentWrong()) {
      String results =
          counts.isNothing()
              ? "and left no results"
              : "though none of its results did; something failed outside of its tests";
      return FailedSetUp.ofJob("the job " + job.said() + ", " + results, job.command());
    }
    boolean brokenOff = reports.stream().anyMatch(FileReport::brokenOff);
    return brokenOff
        ? FailedSetUp.ofJob("the test run ended before its time; what came until then passed", null)
        : null;
  }

  private static final class Draft {
    private @Nullable String format;
    private @Nullable String error;
    private boolean brokenOff;

    /** The file itself says that it has no test, as of a class with nested ones alone. */
    private boolean saysNone;

    private final Dated dated = new Dated();
    private final NameSample names = new NameSample();
    private final Plausible durations;
    private final List<String> problems = new ArrayList<>();

    Draft(Hints hints) {
      this.durations = new Plausible(hints.arrived, hints.job == null ? null : hints.job.millis());
    }
  }

  private static Draft readOne(
      SourceFile file,
      ReadLimits limits,
      Hints hints,
      AttachmentFiles<? extends SourceFile> attachments,
      Assembler assembler,
      Map<String, String> properties) {
    Draft draft = new Draft(hints);
    int before = assembler.seenCases();
    Variant whole = hints.variant.with(hints.paths.of(file.name()));
    CaseHandler handler =
        new CaseHandler() {
          @Override
          public void onFormat(String format) {
            assembler.format(format);
          }

          @Override
          public void onCase(TestResult reported, Repeat repeat) {
            draft.dated.see(reported);
            draft.names.see(reported);
            draft.durations.see(reported);
            TestResult claimed = attachments.claim(AttachmentMarks.taken(reported));
            assembler.add(
                whole.isNone()
                    ? claimed
                    : claimed.ofTest(claimed.test().in(whole.with(claimed.test().variant()))),
                repeat);
          }

          @Override
          public void onHeader(SuiteHeader header) {
            assembler.header(header);
            draft.saysNone |= header.tests() == 0 && header.cases() == 0;
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
      boolean none = assembler.seenCases() == before && !draft.saysNone;
      if (none && !NO_RESULTS.equals(draft.format)) {
        draft.problems.add("holds no test");
      }
    } catch (UnreadableFileException e) {
      unreadable(draft, e.text(), hints);
    } catch (java.util.zip.ZipException | java.io.EOFException e) {
      unreadable(
          draft, "is gzip by its first bytes, but is damaged or cut off: " + e.getMessage(), hints);
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the file " + file.name() + " could not be read: " + e, e);
    }
    String impossible = draft.durations.problem();
    if (impossible != null) {
      draft.problems.add(impossible);
    }
    draft.problems.addAll(assembler.endFile());
    return draft;
  }

  /** What a job that failed has left is kept as far as it goes. */
  private static void unreadable(Draft draft, String error, Hints hints) {
    if (hints.jobWentWrong()) {
      draft.brokenOff = true;
      draft.problems.add(error);
    } else {
      draft.error = error;
    }
  }

  private static String cut(String value) {
    return value.length() <= MAX_PROPERTY_CHARS
        ? value
        : value.substring(0, MAX_PROPERTY_CHARS) + "…";
  }
}
