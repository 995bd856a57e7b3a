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
import org.jspecify.annotations.Nullable;
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
  /** Rows of a head that are asked whether they can be read. */
  private static final int LOOKED_AT = 50;

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
    List<String> headings = rows(head, 1).get(0);
    return headings.size() > 1 && columns.places(headings).refusal() == null;
  }

  /**
   * Why what may well be a table cannot be read; null when it can, as far as its head tells, and
   * for what is no table.
   */
  public @Nullable String refusal(FileHead head) {
    List<List<String>> rows = rows(head, LOOKED_AT);
    CsvPlaces places = columns.places(rows.get(0));
    boolean likely =
        !head.text().startsWith("{")
            && !head.text().startsWith("[")
            && rows.get(0).size() > (columns.headings().isEmpty() ? 2 : 1)
            && rows.get(0).size() == rows.get(1).size()
            && rows.get(0).stream().noneMatch(heading -> heading.contains(":"));
    String refusal = places.refusal();
    if (refusal != null) {
      return likely ? refusal : null;
    }
    int durations = places.places().getOrDefault("duration", Integer.MAX_VALUE);
    for (List<String> row : rows.subList(1, rows.size())) {
      if (refusal == null && durations < row.size()) {
        refusal = places.refusal(row.get(durations).strip());
      }
    }
    return refusal;
  }

  /** The first ones; at least two, empty where there are none. */
  private static List<List<String>> rows(FileHead head, int most) {
    List<List<String>> rows = new ArrayList<>();
    if (!head.isMarkup() && !head.isBlank()) {
      try (CSVParser parser = format(head.text()).parse(new StringReader(head.text()))) {
        for (Iterator<CSVRecord> all = parser.iterator(); rows.size() < most && all.hasNext(); ) {
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
        CsvRows results = new CsvRows(columns.places(headings), limits, handler, problems);
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
