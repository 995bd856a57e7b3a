package org.vinecellar.core.formats;

import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.util.List;
import java.util.Set;
import java.util.zip.GZIPInputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.api.BrunoReader;
import org.vinecellar.core.formats.api.NewmanReader;
import org.vinecellar.core.formats.cpp.CatchReader;
import org.vinecellar.core.formats.cpp.CheckReader;
import org.vinecellar.core.formats.cpp.DoctestReader;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.formats.csv.CsvReader;
import org.vinecellar.core.formats.cucumber.CucumberJsonReader;
import org.vinecellar.core.formats.cucumber.CucumberMessagesReader;
import org.vinecellar.core.formats.dotnet.NUnitReader;
import org.vinecellar.core.formats.dotnet.TrxReader;
import org.vinecellar.core.formats.dotnet.XunitReader;
import org.vinecellar.core.formats.events.EventsReader;
import org.vinecellar.core.formats.googletest.GoogleTestReader;
import org.vinecellar.core.formats.gotest.GoTestReader;
import org.vinecellar.core.formats.javascript.JestReader;
import org.vinecellar.core.formats.javascript.MochaReader;
import org.vinecellar.core.formats.javascript.MochaStreamReader;
import org.vinecellar.core.formats.javascript.PlaywrightReader;
import org.vinecellar.core.formats.junitxml.JUnitXmlReader;
import org.vinecellar.core.formats.opentest.OpenTestReader;
import org.vinecellar.core.formats.robot.RobotReader;
import org.vinecellar.core.formats.rspec.RspecReader;
import org.vinecellar.core.formats.tap.TapReader;
import org.vinecellar.core.formats.testng.TestNgReader;

/** Every reader, and the choice between them by what a file holds. Thread-safe. */
public final class Formats {
  private static final List<ResultReader> READERS =
      List.of(
          new NoResultsReader(),
          new CheckReader(),
          new JUnitXmlReader(),
          new TestNgReader(),
          new CucumberMessagesReader(),
          new CucumberJsonReader(),
          new GoTestReader(),
          new RspecReader(),
          new MochaReader(),
          new MochaStreamReader(),
          new JestReader(),
          new PlaywrightReader(),
          new NewmanReader(),
          new BrunoReader(),
          new GoogleTestReader(),
          new OpenTestReader(),
          new NUnitReader(),
          new XunitReader(),
          new TrxReader(),
          new CatchReader(),
          new DoctestReader(),
          new RobotReader(),
          new EventsReader(),
          new TapReader());

  private static final List<Set<String>> RETOLD =
      List.of(
          Set.of("junit-xml", "testng-xml", "open-test-reporting"),
          Set.of("cucumber-json", "cucumber-messages"));

  private Formats() {}

  /**
   * Whether files of these two formats may tell of the same run, as a build leaves both behind in
   * one directory.
   */
  public static boolean tellTheSame(String one, String other) {
    return !one.equals(other)
        && RETOLD.stream().anyMatch(kin -> kin.contains(one) && kin.contains(other));
  }

  /**
   * Unpacks a file when it is packed with gzip, as told by its first two bytes.
   *
   * @throws UnreadableFileException when it begins like gzip and is not
   */
  public static InputStream unpacked(InputStream raw) throws IOException {
    BufferedInputStream in = new BufferedInputStream(raw, 1 << 16);
    in.mark(2);
    int first = in.read();
    int second = in.read();
    in.reset();
    if (first != 0x1F || second != 0x8B) {
      return in;
    }
    try {
      return new GZIPInputStream(in, 1 << 16);
    } catch (IOException e) {
      throw new UnreadableFileException("is gzip by its first bytes, but cannot be unpacked", e);
    }
  }

  /**
   * Reads a file of whichever kind it is.
   *
   * @param content the file, unpacked
   * @param fileName as it was sent
   * @param columns what the columns of tables hold
   * @return the name of its format
   * @throws UnreadableFileException when it is of no known kind, or not well-formed, or passes a
   *     limit. A file that ends too early is kept up to there when it holds a case
   * @throws IOException when the stream itself fails
   */
  public static String read(
      InputStream content,
      String fileName,
      ReadLimits limits,
      CsvColumns columns,
      CaseHandler handler)
      throws IOException {
    BufferedInputStream in = new BufferedInputStream(content, FileHead.LENGTH);
    in.mark(FileHead.LENGTH);
    FileHead head = head(in);
    in.reset();
    return read(readerFor(head, columns), in, fileName, limits, handler);
  }

  private static FileHead head(InputStream in) throws IOException {
    byte[] bytes = new byte[FileHead.LENGTH];
    int length = in.readNBytes(bytes, 0, bytes.length);
    return FileHead.of(bytes, length, length < bytes.length);
  }

  /**
   * Why a table cannot be read with what is said of its columns, by its beginning.
   *
   * @param raw the file, packed or not
   * @return null when it can, and for all that is no table
   */
  public static @Nullable String tableRefusal(InputStream raw, CsvColumns columns)
      throws IOException {
    FileHead head = head(unpacked(raw));
    return known(head) == null ? new CsvReader(columns).refusal(head) : null;
  }

  /**
   * Reads what is still being written, as it comes: its kind is told from the first lines that are
   * there.
   *
   * @param content as it comes; reading it waits
   * @throws UnreadableFileException as for {@link #read}
   * @throws IOException when the stream itself fails
   */
  public static String readLive(
      InputStream content, String name, ReadLimits limits, CaseHandler handler) throws IOException {
    byte[] bytes = new byte[FileHead.LENGTH];
    int length = 0;
    boolean whole = false;
    ResultReader reader = null;
    while (reader == null && !whole && length < bytes.length) {
      int n = content.read(bytes, length, bytes.length - length);
      whole = n < 0;
      length += Math.max(n, 0);
      FileHead head = FileHead.of(bytes, length, whole);
      reader = head.text().contains("\n") || whole ? known(head) : null;
    }
    InputStream all = new SequenceInputStream(new ByteArrayInputStream(bytes, 0, length), content);
    return read(
        reader == null ? readerFor(FileHead.of(bytes, length, whole), CsvColumns.NONE) : reader,
        all,
        name,
        limits,
        handler);
  }

  private static @Nullable ResultReader known(FileHead head) {
    return READERS.stream().filter(reader -> reader.recognises(head)).findFirst().orElse(null);
  }

  private static String read(
      ResultReader reader, InputStream in, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    handler.onFormat(reader.format());
    Verdict verdict = new Verdict(handler, fileName);
    try {
      reader.read(in, fileName, limits, verdict);
    } catch (CutOffException e) {
      if (verdict.isEmpty()) {
        throw e;
      }
      handler.onBrokenOff("the file " + e.text() + "; what stands before is kept");
    }
    verdict.end();
    return reader.format();
  }

  private static ResultReader readerFor(FileHead head, CsvColumns columns) {
    if (head.isBlank() && head.whole()) {
      throw new UnreadableFileException(
          "is empty; the test run probably ended before it wrote its results");
    }
    if (head.isHtml()) {
      String title = head.htmlTitle();
      throw new UnreadableFileException(
          "is a web page"
              + (title.isEmpty() ? "" : " (“" + title + "”)")
              + ", not a result file; a download or sign-in probably failed before it was saved");
    }
    ResultReader reader = known(head);
    if (reader != null) {
      return reader;
    }
    CsvReader table = new CsvReader(columns);
    String refusal = table.refusal(head);
    if (refusal != null) {
      throw new UnreadableFileException(refusal);
    }
    if (table.recognises(head)) {
      return table;
    }
    String tap = head.isMarkup() ? null : TapReader.refusal(head);
    if (tap != null) {
      throw new UnreadableFileException(tap);
    }
    throw new UnreadableFileException(
        "is of no known kind (it begins with “"
            + head.excerpt()
            + "”); what is read stands in docs/FORMATS.md: JUnit-style XML, TestNG, TAP, Cucumber,"
            + " go test, RSpec, Mocha, Jest, Vitest, Playwright, Newman, Bruno, GoogleTest, Open Test Reporting,"
            + " NUnit, xUnit.net, TRX, Robot Framework, CSV");
  }
}
