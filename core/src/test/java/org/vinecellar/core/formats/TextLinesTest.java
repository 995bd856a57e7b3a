package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Lines and bounded texts: nothing more is kept than may be, and what is cut says so. */
class TextLinesTest {
  private static ReadLimits limits(long bytes, int chars) {
    return new ReadLimits(bytes, 10, 10, 10, chars, 10, 10);
  }

  private static List<String> lines(InputStream in, ReadLimits limits) throws IOException {
    TextLines lines = new TextLines(in, limits);
    List<String> all = new ArrayList<>();
    for (String line = lines.next(); line != null; line = lines.next()) {
      all.add(line);
      assertThat(lines.number()).isEqualTo(all.size());
    }
    return all;
  }

  private static List<String> lines(byte[] bytes) throws IOException {
    return lines(new ByteArrayInputStream(bytes), ReadLimits.DEFAULT);
  }

  @ParameterizedTest
  @CsvSource({
    // text with n and r for the ends of lines, lines parted by slashes
    "anbn, a/b",
    "anb, a/b",
    "arnbrn, a/b",
    "annb, a//b",
    "arb, arb",
    "n, ''",
  })
  void endInEitherWay(String text, String expected) throws IOException {
    byte[] bytes = text.replace('n', '\n').replace("r\n", "\r\n").getBytes(StandardCharsets.UTF_8);

    assertThat(String.join("/", lines(bytes))).isEqualTo(expected);
  }

  @Test
  void aLongLineIsCutAndTheNextIsWhole() throws IOException {
    byte[] text = ("x".repeat(100_000) + "\nnext").getBytes(StandardCharsets.UTF_8);

    assertThat(lines(new ByteArrayInputStream(text), limits(1 << 20, 50)))
        .containsExactly("x".repeat(50), "next");
  }

  @Test
  void aFileAboveTheLimitIsRefusedBeforeItIsKept() {
    InputStream endless =
        new InputStream() {
          @Override
          public int read() {
            return 'x';
          }
        };

    assertThatThrownBy(() -> lines(endless, limits(100_000, 10)))
        .isInstanceOf(UnreadableFileException.class)
        .hasMessageContaining("is larger than 100000 bytes; split it into several files");
  }

  @Test
  void wrongBytesAreReplacedAndTheRestIsKept() throws IOException {
    assertThat(lines(new byte[] {'a', (byte) 0xE5, 'b', '\n', 'c'}))
        .containsExactly("a\uFFFDb", "c");
    assertThat(lines(new byte[0])).isEmpty();
    assertThat(lines(new byte[] {(byte) 0xEF, (byte) 0xBB, (byte) 0xBF})).isEmpty();
  }

  @RepeatedTest(50)
  void bytesThatArriveOneByOneMeanTheSame(RepetitionInfo info) throws IOException {
    Random random = new Random(info.getCurrentRepetition());
    String text =
        random
            .ints(200, 0, 8)
            .mapToObj(i -> List.of("a", "å", "🚢", "\n", "\r\n", " ", "\u0000", "end").get(i))
            .collect(Collectors.joining());
    byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
    InputStream trickle =
        new FilterInputStream(new ByteArrayInputStream(bytes)) {
          @Override
          public int read(byte[] target, int offset, int length) throws IOException {
            return super.read(target, offset, Math.min(length, 1));
          }
        };

    assertThat(lines(trickle, ReadLimits.DEFAULT))
        .isEqualTo(lines(bytes))
        .isEqualTo(text.lines().toList());
  }

  @Test
  void aBoundedTextSaysWhereItWasCutAndBeginsAnew() {
    BoundedText text = new BoundedText(10);
    assertThat(text.take()).isNull();
    text.add("four");
    text.add("five!");
    text.add("no more");
    assertThat(text.take()).isEqualTo("four\n… cut here: longer than 10 characters");
    text.add("");
    text.add("new");
    assertThat(text.take()).isEqualTo("\nnew");
  }
}
