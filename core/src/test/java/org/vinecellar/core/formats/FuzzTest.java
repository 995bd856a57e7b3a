package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.results.TestResult;

/**
 * Spoilt copies of every file that a framework wrote: whatever is in them, a reader hands on
 * bounded results or says that the file cannot be read.
 */
class FuzzTest {
  private static final int COPIES = 150;
  private static final int MAX_TEXT = 2_000;
  private static final ReadLimits TIGHT = new ReadLimits(1 << 20, 5_000, 60, 500, MAX_TEXT, 20, 10);

  /** Pieces that mean something to one format or another. */
  private static final List<String> PIECES =
      List.of(
          "\u0000",
          "\uFFFF",
          "\"",
          "<",
          "]]>",
          "{",
          "}",
          "[",
          "\n",
          "\\u00",
          "null",
          "1e999",
          "-1",
          "\"status\":7",
          "not ok 1",
          "    ok 2",
          "  ---\n",
          "1..99999999",
          "Bail out!",
          "{\"Action\":\"run\",\"Package\":\"p\",\"Test\":\"a/b/c\"}\n",
          "<testcase name='x'>",
          "</testsuite>",
          "<failure/>",
          "&#x0;",
          "<!DOCTYPE a>",
          "{\"testRunFinished\":{}}\n",
          "\"steps\":[[[[",
          "\"tags\":{\"name\":[]}",
          "é",
          "\uD83D");

  static List<Path> files() throws IOException {
    try (Stream<Path> all = Files.walk(Path.of("src/test/resources/corpus"))) {
      return all.filter(Files::isRegularFile)
          .filter(file -> !file.endsWith("README.md"))
          .sorted()
          .toList();
    }
  }

  @ParameterizedTest
  @MethodSource("files")
  void spoiltCopiesAreReadOrRefused(Path file) throws IOException {
    byte[] whole = Files.readAllBytes(file);
    for (int seed = 0; seed < COPIES; seed++) {
      byte[] spoilt = spoilt(whole, new Random(seed));
      try {
        Formats.read(
            new ByteArrayInputStream(spoilt),
            file.getFileName().toString(),
            TIGHT,
            CsvColumns.NONE,
            new Bounds());
      } catch (UnreadableFileException refused) {
        assertThat(refused.text()).isNotBlank().hasSizeLessThan(700);
      } catch (IOException | RuntimeException | StackOverflowError e) {
        fail("seed " + seed + " of " + file, e);
      }
    }
  }

  /** A few changes: cut, dropped, doubled, overwritten, or with a foreign piece in it. */
  private static byte[] spoilt(byte[] whole, Random random) {
    byte[] bytes = whole;
    for (int i = 1 + random.nextInt(4); i > 0 && bytes.length > 2; i--) {
      int at = random.nextInt(bytes.length);
      int length = Math.min(bytes.length - at, 1 + random.nextInt(200));
      ByteArrayOutputStream changed = new ByteArrayOutputStream();
      changed.write(bytes, 0, at);
      switch (random.nextInt(6)) {
        case 0 -> {
          bytes = changed.toByteArray();
          continue;
        }
        case 1 -> changed.write(bytes, at + length, bytes.length - at - length);
        case 2 -> {
          changed.write(bytes, at, length);
          changed.write(bytes, at, bytes.length - at);
        }
        case 3 -> {
          changed.write(random.nextInt(256));
          changed.write(bytes, at + 1, bytes.length - at - 1);
        }
        default -> {
          String piece = PIECES.get(random.nextInt(PIECES.size()));
          changed.writeBytes(piece.getBytes(StandardCharsets.UTF_8));
          changed.write(bytes, at, bytes.length - at);
        }
      }
      bytes = changed.toByteArray();
    }
    return bytes;
  }

  /** Fails when something passes the limits. */
  private static final class Bounds implements CaseHandler {
    private int problems;

    @Override
    public void onFormat(String format) {
      assertThat(format).isNotBlank();
    }

    @Override
    public void onCase(TestResult result, Repeat repeat) {
      assertThat(result.test().displayName().length()).isLessThan(1_100);
      assertThat(result.test().suite().depth()).isLessThan(70);
      assertThat(result.properties()).hasSizeLessThanOrEqualTo(210);
      result
          .attempts()
          .forEach(
              attempt ->
                  attempt
                      .failures()
                      .forEach(
                          failure -> {
                            assertBounded(failure.message());
                            assertBounded(failure.trace());
                          }));
    }

    private static void assertBounded(@org.jspecify.annotations.Nullable String text) {
      if (text != null) {
        assertThat(text.length()).isLessThan(3 * MAX_TEXT);
      }
    }

    @Override
    public void onProperty(String name, String value) {
      assertThat(name).isNotNull();
    }

    @Override
    public void onProblem(String problem) {
      assertThat(++problems).isLessThan(20);
    }

    @Override
    public void onBrokenOff(String how) {
      assertThat(how).isNotBlank();
    }
  }
}
