package org.vinecellar.service.bundles;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.contents.Content;

/** Where the first script of a page goes, and that all else stays as it was. */
class HtmlStartTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '§',
      value = {
        "<html><head> | 0",
        "<!DOCTYPE html><html> | 15",
        "  <!doctype HTML PUBLIC \"-//W3C//DTD HTML 4.01//EN\"><html> | 50",
        "<?xml version=\"1.0\"?><!DOCTYPE html><html> | 36",
        "<!-- saved --><!doctype html><p> | 29",
        "<!-- without an end | -1",
        "just text | 0",
      })
  void isBehindTheDocumentType(String page, int at) {
    assertThat(HtmlStart.of(page.strip().getBytes(StandardCharsets.UTF_8))).isEqualTo(at);
  }

  @RepeatedTest(50)
  void whatIsPutInIsReadInPiecesOfAnySize(RepetitionInfo repetition) {
    Random random = new Random(repetition.getCurrentRepetition());
    byte[] whole = new byte[random.nextInt(60)];
    byte[] more = new byte[random.nextInt(30)];
    random.nextBytes(whole);
    random.nextBytes(more);
    int at = random.nextInt(whole.length + 1);
    Content spliced = new Spliced(new Bytes(whole), at, more);
    byte[] expected = new byte[whole.length + more.length];
    System.arraycopy(whole, 0, expected, 0, at);
    System.arraycopy(more, 0, expected, at, more.length);
    System.arraycopy(whole, at, expected, at + more.length, whole.length - at);

    assertThat(spliced.size()).isEqualTo(expected.length);
    byte[] read = new byte[expected.length];
    int have = 0;
    while (have < read.length) {
      byte[] piece = spliced.read(have, 1 + random.nextInt(20));
      assertThat(piece).isNotEmpty();
      System.arraycopy(piece, 0, read, have, piece.length);
      have += piece.length;
    }
    assertThat(read).isEqualTo(expected);
    assertThat(spliced.read(have, 10)).isEmpty();
  }

  private record Bytes(byte[] bytes) implements Content {
    @Override
    public long size() {
      return bytes.length;
    }

    @Override
    public byte[] read(long offset, int most) {
      int from = (int) Math.min(offset, bytes.length);
      return java.util.Arrays.copyOfRange(bytes, from, Math.min(bytes.length, from + most));
    }
  }
}
