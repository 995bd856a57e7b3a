package org.vinecellar.client.spool;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.client.http.UploadForm;

/** What is kept comes back as it was; what somebody prepared sends no other file. */
class SpoolTest {
  private @TempDir Path work;

  private Spool.Entry kept(Spool spool) throws IOException {
    Path file = Files.writeString(work.resolve("r.xml"), "<testsuite/>");
    return spool.add(
        "https://vine.skerrow.example",
        "main",
        List.of(Map.entry("stream", "a/b")),
        List.of(new UploadForm.FilePart("file", file, "reports/r.xml")),
        Instant.EPOCH);
  }

  @Test
  void anUploadWaitsAsItWasAndGoesWhole() throws IOException {
    Spool spool = new Spool(work.resolve("spool"));
    Spool.Entry entry = kept(spool);
    assertThat(spool.entries()).containsExactly(entry);
    assertThat(entry.stream()).isEqualTo("a/b");
    assertThat(entry.fields()).contains(Map.entry("at", "1970-01-01T00:00:00Z"));
    assertThat(entry.files().get(0).path()).hasContent("<testsuite/>");
    spool.remove(entry);
    assertThat(spool.entries()).isEmpty();
    assertThat(spool.directory()).isEmptyDirectory();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"/etc/passwd", "../../secret", "../0", "linked", "", ".", "0/../0", "1", "7\\n"})
  void aPreparedUploadNamesNoFileButItsOwn(String content) throws IOException {
    Spool spool = new Spool(work.resolve("spool"));
    Spool.Entry entry = kept(spool);
    Files.writeString(work.resolve("secret"), "s3cr3t");
    Files.createSymbolicLink(entry.path().resolve("1"), work.resolve("secret"));
    Path description = entry.path().resolve("upload.json");
    String written = Files.readString(description);
    Files.writeString(
        description, written.replace("\"content\":\"0\"", "\"content\":\"" + content + "\""));
    assertThatThrownBy(spool::entries)
        .isInstanceOf(IOException.class)
        .hasMessageContaining(entry.path() + " is damaged: “");
  }

  @Test
  void linkedAndBrokenUploadsAreSaidToBeDamaged() throws IOException {
    Spool spool = new Spool(work.resolve("spool"));
    Path description = kept(spool).path().resolve("upload.json");
    Files.writeString(description, "{\"version\":");
    assertThatThrownBy(spool::entries).hasMessageContaining("is not JSON");
    Files.delete(description);
    Files.createSymbolicLink(description, Files.writeString(work.resolve("other"), "{}"));
    assertThatThrownBy(spool::entries).hasMessageContaining("is no file of its own");
  }
}
