package org.vinecellar.core.formats.csv;

import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.CutOffException;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.TextSource;
import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Reads a table of results (RFC 4180), parted by commas, semicolons or tabs, with headings in its
 * first row and one result in each further row.
 */
public final class CsvReader implements ResultReader {
  private final CsvColumns columns;

  /** A reader that knows the sender's columns. */
  public CsvReader(CsvColumns columns) {
    this.columns = columns;
  }

  @Override
  public String format() {
    return "csv";
  }

  @Override
  public boolean recognises(FileHead head) {
    List<String> headings = rows(head).get(0);
    var places = columns.places(headings);
    return headings.size() > 1 && places.containsKey("test") && places.containsKey("outcome");
  }

  /** Whether it may well be a table, with headings that are not known. */
  public static boolean looksLikeTable(FileHead head) {
    List<List<String>> rows = rows(head);
    return !head.text().startsWith("{")
        && !head.text().startsWith("[")
        && rows.get(0).size() > 2
        && rows.get(0).size() == rows.get(1).size()
        && rows.get(0).stream().noneMatch(heading -> heading.contains(":"));
  }

  /** The first two; empty where there are none. */
  private static List<List<String>> rows(FileHead head) {
    List<List<String>> rows = new ArrayList<>();
    if (!head.isMarkup() && !head.isBlank()) {
      try (CSVParser parser = format(head.text()).parse(new StringReader(head.text()))) {
        for (Iterator<CSVRecord> all = parser.iterator(); rows.size() < 2 && all.hasNext(); ) {
          rows.add(all.next().toList());
        }
      } catch (IOException | UncheckedIOException | IllegalStateException e) {
        // What is no table has no rows.
      }
    }
    while (rows.size() < 2) {
      rows.add(List.of());
    }
    return rows;
  }

  /** The separator is the one that the first line has most of. */
  private static CSVFormat format(String text) {
    int end = text.indexOf('\n');
    String line = end < 0 ? text : text.substring(0, end);
    char best = ',';
    for (char separator : new char[] {';', '\t'}) {
      if (count(line, separator) > count(line, best)) {
        best = separator;
      }
    }
    return CSVFormat.RFC4180
        .builder()
        .setDelimiter(best)
        .setIgnoreEmptyLines(true)
        .setIgnoreSurroundingSpaces(true)
        .get();
  }

  private static int count(String line, char wanted) {
    return (int) line.chars().filter(c -> c == wanted).count();
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    try (Reader text = new BoundedCells(TextSource.open(content, limits), limits)) {
      text.mark(FileHead.LENGTH);
      char[] head = new char[FileHead.LENGTH];
      int length = Math.max(text.read(head), 0);
      text.reset();
      try (CSVParser parser = format(new String(head, 0, length)).parse(text)) {
        Iterator<CSVRecord> rows = parser.iterator();
        List<String> headings = rows.next().toList();
        CsvRows results =
            new CsvRows(headings, columns.places(headings), limits, handler, problems);
        while (rows.hasNext()) {
          CSVRecord row = rows.next();
          results.row(row.toList(), row.getRecordNumber());
        }
      }
    } catch (UncheckedIOException e) {
      throw unreadable(java.util.Objects.requireNonNull(e.getCause()));
    } catch (IllegalStateException e) {
      throw new UnreadableFileException("is no table: " + e.getMessage(), e);
    }
    problems.close();
  }

  private static IOException unreadable(IOException e) {
    String said = String.valueOf(e.getMessage());
    if (e instanceof org.apache.commons.csv.CSVException) {
      if (said.contains("EOF")) {
        throw new CutOffException("in the middle of a quoted cell", e);
      }
      throw new UnreadableFileException("is no table by RFC 4180: " + said, e);
    }
    return e;
  }
}
