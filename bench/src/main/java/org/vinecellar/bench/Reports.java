package org.vinecellar.bench;

import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Random;

/** Writes JUnit-style XML as a large JVM project would: 2 % failing, each with a trace. */
final class Reports {
  private static final int SUITE = 100;

  /** So many causes the failures have. */
  private static final int CAUSES = 40;

  private Reports() {}

  static Path write(Path file, String prefix, int tests, long seed, boolean withOutput)
      throws IOException {
    Random random = new Random(seed);
    try (Writer out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
      out.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites>\n");
      for (int suite = 0; suite * SUITE < tests; suite++) {
        String name = prefix + ".module" + suite % 50 + ".FareTest" + suite;
        out.write("<testsuite name=\"" + name + "\" timestamp=\"2026-11-20T03:00:00\">\n");
        for (int i = 0; i < SUITE; i++) {
          testCase(out, name, i, random, withOutput);
        }
        out.write("</testsuite>\n");
      }
      out.write("</testsuites>\n");
    }
    return file;
  }

  private static void testCase(Writer out, String suite, int i, Random random, boolean withOutput)
      throws IOException {
    out.write("  <testcase name=\"computesTheFareOfRoute" + i + "\" classname=\"" + suite + "\"");
    out.write(String.format(Locale.ROOT, " time=\"%.3f\"", random.nextDouble()));
    boolean fails = random.nextInt(50) == 0;
    if (!fails && !(withOutput && random.nextInt(4) == 0)) {
      out.write("/>\n");
      return;
    }
    out.write(">");
    if (fails) {
      String message = "expected: &lt;" + random.nextInt(99) + "&gt; but was: &lt;100&gt;";
      out.write(
          "<failure message=\"" + message + "\" type=\"org.opentest4j.AssertionFailedError\">");
      out.write("org.opentest4j.AssertionFailedError: " + message + "\n");
      int cause = random.nextInt(CAUSES);
      out.write("\tat org.skerrow.fares.Rule" + cause + ".apply(Rule" + cause + ".java:12)\n");
      for (int frame = 0; frame < 19; frame++) {
        out.write(
            "\tat org.skerrow.fares.Rounding" + frame + ".apply(Rounding.java:" + frame + ")\n");
      }
      out.write("</failure>");
    } else {
      out.write("<system-out><![CDATA[");
      for (int line = 0; line < 6; line++) {
        out.write(
            "02:14:0" + line + " INFO fares: priced " + random.nextInt() + " for 'Skerrow'\n");
      }
      out.write("]]></system-out>");
    }
    out.write("</testcase>\n");
  }
}
