package org.vinecellar.service.sheets;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.boards.Sheet.Cell;
import org.vinecellar.core.boards.Sheet.Column;
import org.vinecellar.core.boards.Sheet.Row;
import org.vinecellar.core.boards.Sheet.Unit;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;
import org.xml.sax.SAXException;

/** Spreadsheets that every program opens, whatever stands in them. */
class SheetFileTest {
  @TempDir private Path folder;

  private static Sheet sheet(String word) {
    return new Sheet(
        List.of(
            Column.of("name", Unit.TEXT),
            Column.of("at", Unit.TIME),
            Column.of("failed", Unit.COUNT),
            Column.of("rate", Unit.SHARE),
            Column.of("spent", Unit.SECONDS)),
        List.of(
            new Row(
                List.of(
                    Cell.of(word),
                    Cell.of("2026-11-30T04:05:00Z"),
                    Cell.of(3, null),
                    new Cell(null, 0.5, 0.25, 0.75, null),
                    Cell.of(1.5, null))),
            new Row(List.of(Cell.EMPTY, Cell.EMPTY, Cell.EMPTY, Cell.EMPTY, Cell.EMPTY))),
        2);
  }

  private Map<String, Document> parts(Map<String, Sheet> sheets) throws Exception {
    Path file = folder.resolve("sheets.xlsx");
    try (OutputStream out = Files.newOutputStream(file)) {
      SheetFile.workbook(sheets, out);
    }
    Map<String, Document> parts = new LinkedHashMap<>();
    try (ZipFile zip = new ZipFile(file.toFile())) {
      for (ZipEntry entry : Collections.list(zip.entries())) {
        byte[] bytes = zip.getInputStream(entry).readAllBytes();
        assertThat(parts.put(entry.getName(), parsed(entry.getName(), bytes))).isNull();
      }
    }
    return parts;
  }

  private static Document parsed(String name, byte[] bytes) throws Exception {
    try {
      return DocumentBuilderFactory.newInstance()
          .newDocumentBuilder()
          .parse(new ByteArrayInputStream(bytes));
    } catch (IOException | SAXException e) {
      throw new AssertionError(
          name + " is no XML: " + new String(bytes, StandardCharsets.UTF_8), e);
    }
  }

  private static List<String> all(Document part, String element, String attribute) {
    NodeList found = part.getElementsByTagName(element);
    List<String> values = new ArrayList<>();
    for (int i = 0; i < found.getLength(); i++) {
      values.add(((Element) found.item(i)).getAttribute(attribute));
    }
    return values;
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "plain",
        "=1+1",
        "\"a\" & <b> 'c' ]]>",
        "tab\tline\nend\r",
        "\u0000\u0001\u001f\ufffe\uffff",
        "\ud83d alone",
        "\ud83d\ude00 one",
        "[a]:b*c?d/e\\f",
        "'quoted'",
        "   ",
        "a name that is much longer than the thirty-one letters of a sheet"
      })
  void everyPartIsXmlAndSheetsHaveNamesOfTheirOwn(String word) throws Exception {
    Map<String, Sheet> sheets = new LinkedHashMap<>();
    sheets.put(word, sheet(word));
    sheets.put(word + "!", sheet(word));
    sheets.put(word.toUpperCase(Locale.ROOT) + "!", sheet(word));
    Map<String, Document> parts = parts(sheets);
    List<String> names = all(Objects.requireNonNull(parts.get("xl/workbook.xml")), "sheet", "name");
    assertThat(names).hasSize(sheets.size());
    assertThat(names.stream().map(name -> name.toLowerCase(Locale.ROOT)))
        .doesNotHaveDuplicates()
        .allSatisfy(
            name ->
                assertThat(name)
                    .matches("[^\\[\\]:*?/\\\\\\p{C}]{1,31}")
                    .isNotBlank()
                    .doesNotStartWith("'")
                    .doesNotEndWith("'"));
    assertThat(parts).doesNotContainKey("xl/calcChain.xml");
    assertThat(
            Objects.requireNonNull(parts.get("xl/worksheets/sheet1.xml"))
                .getElementsByTagName("f")
                .getLength())
        .as("formulas")
        .isZero();
  }

  /** More than that, and what opens it calls the file damaged. */
  @Test
  void aTextIsCutToWhatACellMayHold() throws Exception {
    String word = "x".repeat(32_765) + "\ud83d\ude00" + "y";
    Document words =
        Objects.requireNonNull(parts(Map.of("Long", sheet(word))).get("xl/sharedStrings.xml"));
    NodeList texts = words.getElementsByTagName("t");
    assertThat(IntStream.range(0, texts.getLength()).mapToObj(i -> texts.item(i).getTextContent()))
        .contains("x".repeat(32_765) + "…");
  }

  @Test
  void numbersAreShownAsWhatTheyAre() throws Exception {
    Map<String, Document> parts = parts(Map.of("Times", sheet("a")));
    assertThat(all(Objects.requireNonNull(parts.get("xl/styles.xml")), "numFmt", "formatCode"))
        .containsExactlyInAnyOrder("0.0%", "0.00\\ \\s", "yyyy-mm-dd hh:mm");
  }
}
