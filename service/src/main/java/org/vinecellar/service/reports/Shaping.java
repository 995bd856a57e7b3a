package org.vinecellar.service.reports;

import com.fasterxml.jackson.core.io.JsonStringEncoder;
import com.samskivert.mustache.BasicCollector;
import com.samskivert.mustache.Mustache;
import com.samskivert.mustache.MustacheException;
import com.samskivert.mustache.Template;
import java.io.Writer;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.reports.Report;
import org.vinecellar.service.sheets.SheetWords;
import org.vinecellar.service.web.SheetText;

/**
 * Shapes a report by somebody's own template, in the Mustache language (mustache(5)). A template
 * sees texts and numbers and nothing else: it calls no code, reads no file, and has an end, however
 * it nests what it goes through.
 */
final class Shaping {
  /** Characters of a template. */
  static final int LONGEST = 64 * 1024;

  /** Characters of what comes of it. */
  private static final int LARGEST = 16 * 1024 * 1024;

  /** Things that it goes through. */
  private static final int MOST_STEPS = 2_000_000;

  /** Stands in no text that there is. */
  private static final String NO_WORD = "\0";

  private static final Pattern BETWEEN = Pattern.compile("[^A-Za-z0-9]+");

  private Shaping() {}

  /** How texts are made harmless where they go. */
  enum Escape {
    /** They stay as they are. */
    NONE,
    /** For HTML and XML. */
    HTML,
    /** Between the quotes of a JSON string (RFC 8259). */
    JSON,
    /** Between the quotes of a cell (RFC 4180), and for a spreadsheet no formula. */
    CSV;

    String of(String text) {
      return switch (this) {
        case NONE -> text;
        case HTML -> ReportPage.escaped(text);
        case JSON -> String.valueOf(JsonStringEncoder.getInstance().quoteAsString(text));
        case CSV -> SheetText.harmless(text).replace("\"", "\"\"");
      };
    }

    static Escape ofWord(@Nullable String word) {
      String said = word == null || word.isBlank() ? "none" : word;
      for (Escape one : values()) {
        if (one.name().equalsIgnoreCase(said)) {
          return one;
        }
      }
      throw invalid("escape is “" + word + "”; it can be none, html, json or csv");
    }
  }

  /**
   * What comes of a template.
   *
   * @throws CellarException when it makes no sense, names what there is not, or has no end
   */
  static String shape(Report report, Where where, String template, Escape escape) {
    if (template.length() > LONGEST) {
      throw invalid("the template has more than " + LONGEST + " characters");
    }
    try {
      Template compiled =
          Mustache.compiler()
              .withCollector(new Plain())
              .withEscaper(escape::of)
              .withFormatter(Shaping::said)
              .nullValue("")
              .zeroIsFalse(true)
              .emptyStringIsFalse(true)
              .strictSections(true)
              .withLoader(
                  name -> {
                    throw new MustacheException("it takes in another one, “" + name + "”");
                  })
              .compile(template);
      Bounded out = new Bounded();
      compiled.execute(new Data(where, new Steps()).of(report), out);
      if (out.text.indexOf(NO_WORD) >= 0) {
        throw invalid(
            "the template writes a table out as if that were a word; go through its rows, as in"
                + " {{#rows}} … {{/rows}}");
      }
      return out.text.toString();
    } catch (MustacheException.Context e) {
      throw invalid(
          "the template names “"
              + e.key
              + "” in line "
              + e.lineNo
              + ", and there is nothing of that name");
    } catch (MustacheException e) {
      throw invalid("the template cannot be followed: " + e.getMessage());
    } catch (StackOverflowError e) {
      throw invalid("the template cannot be followed: it is too deep");
    }
  }

  /** Only words and numbers can be written out; whether something is empty is asked for all. */
  private static String said(Object value) {
    boolean plain = value instanceof String || value instanceof Number || value instanceof Boolean;
    return plain ? value.toString() : NO_WORD;
  }

  private static CellarException invalid(String why) {
    return new CellarException(ProblemCode.INVALID_VALUE, why);
  }

  /** Goes through lists and maps, and calls nothing. */
  private static final class Plain extends BasicCollector {
    @Override
    public <K, V> Map<K, V> createFetcherCache() {
      return Collections.synchronizedMap(new LinkedHashMap<>());
    }
  }

  /** Counts how far a template went. */
  private static final class Steps {
    private int left = MOST_STEPS;

    void next() {
      if (--left < 0) {
        throw new MustacheException(
            "it goes through more than "
                + MOST_STEPS
                + " things; go through fewer lists inside of"
                + " others");
      }
    }
  }

  private static final class Bounded extends Writer {
    private final StringBuilder text = new StringBuilder();

    @Override
    public void write(char[] from, int at, int length) {
      if (text.length() + length > LARGEST) {
        throw new MustacheException("more than " + LARGEST + " characters come of it");
      }
      text.append(from, at, length);
    }

    @Override
    public void flush() {
      // Nothing waits.
    }

    @Override
    public void close() {
      // Nothing is held.
    }
  }

  /**
   * What can be gone through, and counts it. Each thing is made when it is come to: a report has
   * more rows than there is room for all at once.
   */
  private record Counted(Supplier<Stream<?>> of, Steps steps) implements Iterable<Object> {
    @Override
    public Iterator<Object> iterator() {
      Iterator<?> each = of.get().iterator();
      return new Iterator<>() {
        @Override
        public boolean hasNext() {
          return each.hasNext();
        }

        @Override
        public Object next() {
          steps.next();
          return each.next();
        }
      };
    }
  }

  /** What a template sees. */
  private record Data(Where where, Steps steps) {
    Map<String, @Nullable Object> of(Report report) {
      Map<String, @Nullable Object> data = new LinkedHashMap<>();
      data.put("kind", report.kind().word());
      data.put("title", report.kind().title());
      data.put("project", where.name());
      data.put("portal", where.portal());
      data.put("period", Where.days(report));
      data.put("from", report.period().from().toString());
      data.put("to", report.period().to().toString());
      data.put("filter", report.filter());
      data.put("made", report.madeAt().toString());
      List<Object> tables = new ArrayList<>();
      for (Report.Table table : report.tables()) {
        Map<String, @Nullable Object> one = table(table);
        tables.add(one);
        data.put(table.word(), one);
      }
      data.put("tables", new Counted(tables::stream, steps));
      return data;
    }

    private Map<String, @Nullable Object> table(Report.Table table) {
      Sheet sheet = table.sheet();
      Map<String, @Nullable Object> told = new LinkedHashMap<>();
      told.put("word", table.word());
      told.put("title", table.title());
      told.put("note", table.note());
      told.put("more", sheet.left() != 0);
      List<Object> columns = new ArrayList<>();
      for (Sheet.Column column : sheet.columns()) {
        Map<String, @Nullable Object> one = new LinkedHashMap<>();
        one.put("name", name(column));
        one.put("title", SheetWords.head(column));
        columns.add(one);
      }
      told.put("columns", new Counted(columns::stream, steps));
      told.put("rows", new Counted(() -> sheet.rows().stream().map(row -> row(sheet, row)), steps));
      return told;
    }

    private Map<String, @Nullable Object> row(Sheet sheet, Sheet.Row row) {
      Map<String, @Nullable Object> told = new LinkedHashMap<>();
      Map<String, @Nullable Object> words = new LinkedHashMap<>();
      Map<String, @Nullable Object> links = new LinkedHashMap<>();
      List<Object> cells = new ArrayList<>();
      for (int i = 0; i < sheet.columns().size(); i++) {
        Sheet.Column column = sheet.columns().get(i);
        Sheet.Cell cell = row.cells().get(i);
        String said = SheetWords.cell(column, cell);
        Sheet.Link link = cell.link();
        String address = link == null ? null : where.link(link);
        String name = name(column);
        told.put(name, value(column, cell));
        words.put(name, said);
        links.put(name, address);
        Map<String, @Nullable Object> one = new LinkedHashMap<>();
        one.put("name", name);
        one.put("title", SheetWords.head(column));
        one.put("value", value(column, cell));
        one.put("words", said);
        one.put("link", address);
        cells.add(one);
      }
      told.put("words", words);
      told.put("links", links);
      told.put("cells", new Counted(cells::stream, steps));
      return told;
    }

    private static @Nullable Object value(Sheet.Column column, Sheet.Cell cell) {
      Double number = cell.number();
      if (number == null) {
        return cell.text();
      }
      return column.unit() == Sheet.Unit.COUNT || number == Math.rint(number)
          ? (Object) Math.round(number)
          : (Object) number;
    }

    /** {@code not reached} is {@code notReached}; by what runs are told apart stands behind. */
    private static String name(Sheet.Column column) {
      String all =
          column.key()
              + column.values().stream()
                  .map(value -> " " + (value == null ? "none" : value))
                  .collect(Collectors.joining());
      StringBuilder name = new StringBuilder();
      for (String word : BETWEEN.split(all)) {
        if (!word.isEmpty()) {
          name.append(
              name.isEmpty()
                  ? word
                  : word.substring(0, 1).toUpperCase(Locale.ROOT) + word.substring(1));
        }
      }
      return name.toString();
    }
  }
}
