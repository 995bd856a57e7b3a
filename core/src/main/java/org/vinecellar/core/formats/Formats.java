package org.vinecellar.core.formats;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.Set;
import java.util.zip.GZIPInputStream;
import org.vinecellar.core.formats.junitxml.JUnitXmlReader;
import org.vinecellar.core.formats.tap.TapReader;
import org.vinecellar.core.formats.testng.TestNgReader;

/** Every reader, and the choice between them by what a file holds. Thread-safe. */
public final class Formats {
  private static final List<ResultReader> READERS =
      List.of(new JUnitXmlReader(), new TestNgReader(), new TapReader());

  private static final Set<String> RETOLD = Set.of("junit-xml", "testng-xml");

  private Formats() {}

  /**
   * Whether files of these two formats may tell of the same run, as a build leaves both behind in
   * one directory.
   */
  public static boolean tellTheSame(String one, String other) {
    return !one.equals(other) && RETOLD.contains(one) && RETOLD.contains(other);
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
   * @return the name of its format
   * @throws UnreadableFileException when it is of no known kind, or not well-formed, or passes a
   *     limit
   * @throws IOException when the stream itself fails
   */
  public static String read(
      InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    BufferedInputStream in = new BufferedInputStream(content, FileHead.LENGTH);
    in.mark(FileHead.LENGTH);
    byte[] bytes = new byte[FileHead.LENGTH];
    int length = in.readNBytes(bytes, 0, bytes.length);
    in.reset();
    FileHead head = FileHead.of(bytes, length, length < bytes.length);
    ResultReader reader = readerFor(head);
    handler.onFormat(reader.format());
    reader.read(in, fileName, limits, handler);
    return reader.format();
  }

  private static ResultReader readerFor(FileHead head) {
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
    for (ResultReader reader : READERS) {
      if (reader.recognises(head)) {
        return reader;
      }
    }
    throw new UnreadableFileException(
        "is of no known kind (it begins with “"
            + head.excerpt()
            + "”); what is read: JUnit-style XML, with testsuites or testsuite as its root, TestNG results, and TAP");
  }
}
