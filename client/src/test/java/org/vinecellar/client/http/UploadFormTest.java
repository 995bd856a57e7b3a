package org.vinecellar.client.http;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import java.util.zip.GZIPInputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class UploadFormTest {
  private @TempDir Path work;

  @ParameterizedTest
  @ValueSource(ints = {0, 1, 100, 32_768, 1_000_000})
  void whatIsPackedOnTheWayUnpacksToTheSame(int size) throws IOException {
    byte[] plain = new byte[size];
    new Random(size).nextBytes(plain);

    try (InputStream packed = GzipStream.of(new ByteArrayInputStream(plain));
        InputStream again = new GZIPInputStream(packed)) {
      assertThat(again.readAllBytes()).isEqualTo(plain);
    }
  }

  @Test
  void theFormHoldsFieldsAndPackedFilesAndCanBeReadTwice() throws IOException {
    Path file = Files.writeString(work.resolve("a.xml"), "<testsuite/>");
    AtomicLong progress = new AtomicLong();
    UploadForm form =
        new UploadForm(
            List.of(Map.entry("stream", "fares/nightly"), Map.entry("label", "team=fäher")),
            List.of(new UploadForm.FilePart("file", file, "dir/\"a\"\r\n.xml")),
            progress::set);

    String body = new String(form.body().readAllBytes(), StandardCharsets.ISO_8859_1);

    String boundary = form.contentType().substring(form.contentType().indexOf('=') + 1);
    assertThat(body.split("--" + boundary)).hasSize(5);
    assertThat(body)
        .contains(
            "name=\"stream\"\r\nContent-Type: text/plain; charset=utf-8\r\n\r\nfares/nightly\r\n")
        .contains(
            "filename=\"dir/%22a%22__.xml\"\r\nContent-Type: application/octet-stream\r\n\r\n\u001F\u008B")
        .endsWith("--" + boundary + "--\r\n");
    assertThat(progress.get()).isEqualTo(12);
    assertThat(form.body().readAllBytes()).hasSize(body.length());
  }

  @Test
  void aFileThatIsPackedAlreadyIsSentAsItIs() throws IOException {
    ByteArrayOutputStream packed = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
      gzip.write("<testsuite/>".getBytes(StandardCharsets.UTF_8));
    }
    Path file = Files.write(work.resolve("a.xml.gz"), packed.toByteArray());
    UploadForm form =
        new UploadForm(List.of(), List.of(new UploadForm.FilePart("file", file, "a")), done -> {});

    String body = new String(form.body().readAllBytes(), StandardCharsets.ISO_8859_1);

    assertThat(body).contains(new String(packed.toByteArray(), StandardCharsets.ISO_8859_1));
  }
}
