package org.vinecellar.bench;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import java.io.BufferedInputStream;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.Reader;
import java.io.Writer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.IntFunction;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamReader;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;

/** Each kind of reader against an empty loop of a tokenizer of the same kind. */
final class FormatsBench {
  private static final int ROUNDS = 7;
  private static final int WARM = 2;
  private static final String TRACE =
      "org.skerrow.FareException: expected 12.50, got 12.40\\n  at org.skerrow.Fare.round(Fare.java:7)";

  private final Path folder;

  FormatsBench(Path folder) {
    this.folder = folder;
  }

  private enum Kind {
    XML("JDK's StAX reader"),
    JSON("Jackson's tokenizer"),
    LINES("lines of the JDK's reader"),
    TABLE("Commons CSV's reader");

    private final String loop;

    Kind(String loop) {
      this.loop = loop;
    }
  }

  /** How a file of so many cases is written. */
  private record Format(
      String name, Kind kind, int cases, String head, IntFunction<String> one, String tail) {}

  private static List<Format> formats() {
    return List.of(
        new Format(
            "TestNG XML",
            Kind.XML,
            80_000,
            "<testng-results><suite name='s'><test name='t'><class name='org.skerrow.FareTest'>",
            i ->
                "<test-method name='t"
                    + i
                    + "' status='"
                    + (i % 20 == 0 ? "FAIL" : "PASS")
                    + "' duration-ms='12' started-at='2026-11-20T06:00:00Z'>"
                    + (i % 20 == 0
                        ? "<exception class='E'><message>wrong</message><full-stacktrace>"
                            + TRACE
                            + "</full-stacktrace></exception>"
                        : "")
                    + "<reporter-output></reporter-output></test-method>\n",
            "</class></test></suite></testng-results>"),
        new Format(
            "NUnit 3 XML",
            Kind.XML,
            80_000,
            "<test-run><test-suite type='TestFixture' fullname='Skerrow.FareTest'>",
            i ->
                "<test-case name='t"
                    + i
                    + "' classname='Skerrow.FareTest' result='"
                    + (i % 20 == 0 ? "Failed" : "Passed")
                    + "' duration='0.012' start-time='2026-11-20T06:00:00Z'>"
                    + (i % 20 == 0 ? "<failure><message>wrong</message></failure>" : "")
                    + "</test-case>\n",
            "</test-suite></test-run>"),
        new Format(
            "Cucumber JSON",
            Kind.JSON,
            30_000,
            "[",
            i ->
                (i == 0 ? "" : ",")
                    + "{\"name\":\"F"
                    + i / 10
                    + "\",\"uri\":\"f.feature\",\"elements\":[{\"type\":"
                    + "\"scenario\",\"name\":\"s"
                    + i
                    + "\",\"line\":3,\"steps\":["
                    + step("Given ", "passed")
                    + ","
                    + step("When ", "passed")
                    + ","
                    + step("Then ", i % 20 == 0 ? "failed" : "passed")
                    + "]}]}\n",
            "]"),
        new Format(
            "RSpec JSON",
            Kind.JSON,
            80_000,
            "{\"version\":\"3.12\",\"examples\":[",
            i ->
                (i == 0 ? "" : ",")
                    + "{\"description\":\"t"
                    + i
                    + "\",\"full_description\":\"Fares t"
                    + i
                    + "\",\"status\":\""
                    + (i % 20 == 0 ? "failed" : "passed")
                    + "\",\"file_path\":\"./f.rb\",\"line_number\":2,\"run_time\":0.012"
                    + (i % 20 == 0
                        ? ",\"exception\":{\"class\":\"E\",\"message\":\"wrong\",\"backtrace\":[\"a\"]}"
                        : "")
                    + "}\n",
            "]}"),
        new Format(
            "go test events",
            Kind.JSON,
            40_000,
            "",
            i ->
                go("run", i, "")
                    + go("output", i, ",\"Output\":\"=== RUN   T" + i + "\\n\"")
                    + (i % 20 == 0
                        ? go("output", i, ",\"Output\":\"    f_test.go:7: wrong\\n\"")
                        : "")
                    + go(i % 20 == 0 ? "fail" : "pass", i, ",\"Elapsed\":0.01"),
            ""),
        new Format(
            "our own events",
            Kind.JSON,
            60_000,
            "{\"event\":\"run\"}\n",
            i ->
                "{\"event\":\"test started\",\"id\":\""
                    + i
                    + "\",\"suite\":[\"Fares\"],\"test\":\"t"
                    + i
                    + "\",\"time\":\"2026-11-20T06:00:00Z\"}\n{\"event\":\"test finished\",\"id\":\""
                    + i
                    + "\",\"outcome\":\"passed\",\"ms\":12}\n",
            "{\"event\":\"run finished\"}\n"),
        new Format(
            "TAP",
            Kind.LINES,
            150_000,
            "TAP version 14\n",
            i ->
                (i % 20 == 0 ? "not ok " : "ok ")
                    + (i + 1)
                    + " - rounds the fare of port "
                    + i
                    + "\n  ---\n  duration_ms: 12.4\n  ...\n",
            "1..150000\n"),
        new Format(
            "CSV",
            Kind.TABLE,
            150_000,
            "suite,test,outcome,duration,message\n",
            i ->
                "Fares,t"
                    + i
                    + ","
                    + (i % 20 == 0 ? "failed" : "passed")
                    + ",0.012,"
                    + (i % 20 == 0 ? "\"expected 12.50, got 12.40\"" : "")
                    + "\n",
            ""));
  }

  private static String step(String keyword, String status) {
    return "{\"keyword\":\""
        + keyword
        + "\",\"name\":\"a ferry of 40 cars\",\"line\":4,\"result\":{"
        + "\"status\":\""
        + status
        + "\",\"duration\":1200000"
        + (status.equals("failed") ? ",\"error_message\":\"" + TRACE + "\"" : "")
        + "}}";
  }

  private static String go(String action, int test, String more) {
    return "{\"Time\":\"2026-11-20T06:00:00Z\",\"Action\":\""
        + action
        + "\",\"Package\":\"fares\","
        + "\"Test\":\"T"
        + test
        + "\""
        + more
        + "}\n";
  }

  List<Bench.Row> run() throws IOException {
    List<Bench.Row> rows = new ArrayList<>();
    for (Format format : formats()) {
      Path file = folder.resolve("format");
      try (Writer out = Files.newBufferedWriter(file)) {
        out.write(format.head());
        for (int i = 0; i < format.cases(); i++) {
          out.write(format.one().apply(i));
        }
        out.write(format.tail());
      }
      rows.add(row(format, file));
    }
    return rows;
  }

  private static Bench.Row row(Format format, Path file) throws IOException {
    double megabytes = Files.size(file) / 1e6;
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    List<Double> ratios = new ArrayList<>();
    for (int round = 0; round < ROUNDS; round++) {
      long begun = System.nanoTime();
      emptyLoop(format.kind(), file);
      long between = System.nanoTime();
      CoreReading.of(file, format.cases());
      long end = System.nanoTime();
      if (round >= WARM) {
        theirs.add(megabytes / ((between - begun) / 1e9));
        ours.add(megabytes / ((end - between) / 1e9));
        ratios.add((double) (between - begun) / (end - between));
      }
    }
    double ratio = Bench.median(ratios);
    Bench.progress(String.format(Locale.ROOT, "%s: %.2f", format.name(), ratio));
    return new Bench.Row(
        String.format(Locale.ROOT, "reading %.0f MB of %s", megabytes, format.name()),
        String.format(Locale.ROOT, "%.0f MB/s", Bench.median(ours)),
        String.format(
            Locale.ROOT, "%s, empty loop: %.0f MB/s", format.kind().loop, Bench.median(theirs)),
        String.format(Locale.ROOT, "%.2f", ratio),
        "",
        true);
  }

  private static void emptyLoop(Kind kind, Path file) throws IOException {
    switch (kind) {
      case XML -> {
        try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
          XMLStreamReader xml = XMLInputFactory.newDefaultFactory().createXMLStreamReader(in);
          while (xml.hasNext()) {
            xml.next();
          }
        } catch (javax.xml.stream.XMLStreamException e) {
          throw new IOException(e);
        }
      }
      case JSON -> {
        try (Reader in = Files.newBufferedReader(file);
            JsonParser json = new JsonFactory().createParser(in)) {
          while (json.nextToken() != null) {
            // as quick as it can be
          }
        }
      }
      case LINES -> {
        try (BufferedReader in = Files.newBufferedReader(file)) {
          while (in.readLine() != null) {
            // as quick as it can be
          }
        }
      }
      case TABLE -> {
        int rows = 0;
        try (Reader in = Files.newBufferedReader(file)) {
          for (CSVRecord row : CSVFormat.RFC4180.parse(in)) {
            rows += row.size() > 0 ? 1 : 0;
          }
        }
        if (rows == 0) {
          throw new IOException("no rows");
        }
      }
    }
  }
}
