package org.vinecellar.core.attachments;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MediaTypesTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      nullValues = "-",
      value = {
        // claimed | name | content, in hex or as text | what it is
        "image/png | quay.png | 89504e470d0a1a0a00 | image/png",
        "text/plain | notes.txt | 89504e470d0a1a0a00 | image/png",
        "image/png | quay.png | =<script>alert(1)</script> | text/plain",
        "image/png | quay.png | =<!DOCTYPE html><p>hi | text/html",
        "image/png | quay.svg | =<svg onload='alert(1)'/> | image/svg+xml",
        "- | quay.html | =<?xml version='1.0'?><svg/> | image/svg+xml",
        "image/jpeg | a | ffd8ffe000 | image/jpeg",
        "- | a.webm | 1a45dfa300 | video/webm",
        "- | a.mp4 | 000000186674797069736f6d | video/mp4",
        "- | trace.zip | 504b030400 | application/zip",
        "application/json | a | ={\"a\":1} | application/json",
        "application/json; charset=utf-8 | a | ={\"a\":1} | application/json",
        "- | berths.JSON | ={} | application/json",
        "text/html | a.txt | =plain words | text/html",
        "- | a.exe | =words | text/plain",
        "text/plain | a.txt | 4d5a900003000000 | application/octet-stream",
        "text/plain | a.txt | c328c328c328c328c328 | application/octet-stream",
        "- | empty | = | text/plain",
      })
  void theContentTellsNotTheName(String claimed, String name, String content, String type) {
    byte[] head =
        content.startsWith("=")
            ? content.substring(1).getBytes(StandardCharsets.UTF_8)
            : HexFormat.of().parseHex(content);

    assertThat(MediaTypes.of(claimed, name, head)).isEqualTo(type);
  }

  @ParameterizedTest
  @CsvSource({
    "image/png, true, false",
    "video/webm, true, false",
    "image/svg+xml, false, true",
    "text/html, false, true",
    "application/json, false, true",
    "application/zip, false, false",
    "application/octet-stream, false, false",
  })
  void markupIsTextAndNeverShownAsItIs(String type, boolean harmless, boolean text) {
    assertThat(MediaTypes.isHarmless(type)).isEqualTo(harmless);
    assertThat(MediaTypes.isText(type)).isEqualTo(text);
  }
}
