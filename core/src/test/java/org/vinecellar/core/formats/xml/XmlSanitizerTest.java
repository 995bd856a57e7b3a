package org.vinecellar.core.formats.xml;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReader;

class XmlSanitizerTest {
  private static final String[] PIECES = {
    "<testsuite name='s'>",
    "</testsuite>",
    "<testcase name=\"a'b\">",
    "</testcase>",
    "<failure>",
    "</failure>",
    "<![CDATA[",
    "]]>",
    "]]",
    "]",
    "<!--",
    "-->",
    "--",
    "<?x",
    "?>",
    "&#27;",
    "&#x0;",
    "&#10;",
    "&amp;",
    "&#xD800;",
    "&#99999999999;",
    "&",
    "<",
    ">",
    "\u0001",
    "\u001B[0m",
    "å",
    "\uD83D\uDE00",
    "\uFFFE",
    "text",
    "\n",
    "time='1'",
    "\"",
    "'",
  };

  private static byte[] random(long seed) {
    Random random = new Random(seed);
    StringBuilder text = new StringBuilder("<testsuites>");
    for (int i = random.nextInt(60); i >= 0; i--) {
      text.append(PIECES[random.nextInt(PIECES.length)]);
    }
    byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
    for (int i = random.nextInt(3); i > 0; i--) {
      bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
    }
    return bytes;
  }

  private static byte[] sanitized(InputStream in) throws IOException {
    return new XmlSanitizer(in, 1 << 20).readAllBytes();
  }

  @RepeatedTest(300)
  void bytesThatArriveOneByOneMeanTheSame(RepetitionInfo info) throws IOException {
    byte[] bytes = random(info.getCurrentRepetition());

    byte[] atOnce = sanitized(new ByteArrayInputStream(bytes));
    byte[] trickled = sanitized(new Trickle(bytes));

    assertThat(trickled).isEqualTo(atOnce);
    assertThat(sanitized(new ByteArrayInputStream(atOnce))).isEqualTo(atOnce);
  }

  /** Against the grammar of characters, by one character at a time. */
  @RepeatedTest(300)
  void nothingForbiddenIsLeftAndWhatIsAllowedStays(RepetitionInfo info) throws IOException {
    byte[] bytes = random(info.getCurrentRepetition());
    String before = new String(bytes, StandardCharsets.UTF_8);

    String after = strictly(sanitized(new ByteArrayInputStream(bytes)));

    assertThat(after.codePoints().allMatch(XmlReferences::isLegal)).isTrue();
    boolean touchy = before.codePoints().anyMatch(c -> !XmlReferences.isLegal(c) || c == 0xFFFD);
    if (!touchy && !before.contains("&#") && !before.contains("]]")) {
      assertThat(after).isEqualTo(before);
    }
  }

  private static String strictly(byte[] utf8) throws IOException {
    return StandardCharsets.UTF_8.newDecoder().decode(java.nio.ByteBuffer.wrap(utf8)).toString();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "a]]>b | a]]&gt;b",
        "<![CDATA[a]]>b]]>c | <![CDATA[a]]>b]]&gt;c",
        "<![CDATA[&#7; <!-- ]]>&#10; | <![CDATA[&#7; <!-- ]]>&#10;",
        "<!-- ]]> &#10; --> | <!-- ]]> &#10; -->",
        "!--&#10; ]]> | !--&#10; ]]&gt;",
        "&#xFFFE; &#x110000; &#99999999; | ~ ~ ~",
        "&#; &#x; &#1 &amp; | &#; &#x; &#1 &amp;",
        "12345678]]>12345678 | 12345678]]&gt;12345678",
      })
  void placesTellWhatIsReplaced(String written, String clean) throws IOException {
    for (int shift = 0; shift < 9; shift++) {
      String pad = " ".repeat(shift);
      byte[] bytes = (pad + written).getBytes(StandardCharsets.UTF_8);

      assertThat(new String(sanitized(new ByteArrayInputStream(bytes)), StandardCharsets.UTF_8))
          .isEqualTo(pad + clean.replace('~', '\uFFFD'));
    }
  }

  @RepeatedTest(300)
  void anythingIsReadOrRefusedWithAReason(RepetitionInfo info) {
    var report =
        UploadReader.read(
            List.of(Recording.source("f", random(1000 + info.getCurrentRepetition()))),
            ReadLimits.DEFAULT,
            new Recording());

    String error = report.files().get(0).error();
    assertThat(error == null ? "fine" : error).isNotBlank();
  }

  @Test
  void theEdgesOfTheBufferCutNothing() throws IOException {
    for (int pad = (1 << 16) - 40; pad < (1 << 16) + 8; pad++) {
      String text = "<a>" + "x".repeat(pad) + "&#27;å]]>\u0007</a>";
      byte[] clean = sanitized(new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)));
      assertThat(XmlSanitizer.restore(new String(clean, StandardCharsets.UTF_8)))
          .isEqualTo("<a>" + "x".repeat(pad) + "\u001Bå]]&gt;\uFFFD</a>");
    }
  }

  /** Hands out one byte a call. */
  private static final class Trickle extends FilterInputStream {
    Trickle(byte[] bytes) {
      super(new ByteArrayInputStream(bytes));
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
      return super.read(target, offset, Math.min(length, 1));
    }
  }
}
