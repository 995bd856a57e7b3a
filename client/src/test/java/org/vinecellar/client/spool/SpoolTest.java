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
    assertThat(spool.waiting()).containsExactly(entry.path());
    assertThat(Spool.read(entry.path())).isEqualTo(entry);
    assertThat(entry.stream()).isEqualTo("a/b");
    assertThat(entry.fields()).contains(Map.entry("made", "1970-01-01T00:00:00Z"));
    assertThat(entry.files().get(0).path()).hasContent("<testsuite/>");
    spool.remove(entry);
    assertThat(spool.waiting()).isEmpty();
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
    assertThatThrownBy(() -> Spool.read(entry.path()))
        .isInstanceOf(Spool.DamagedException.class)
        .hasMessageContaining(entry.path() + " is damaged: “");
  }

  @Test
  void linkedAndBrokenUploadsAreSaidToBeDamaged() throws IOException {
    Path upload = kept(new Spool(work.resolve("spool"))).path();
    Path description = upload.resolve("upload.json");
    for (String broken : List.of("{\"version\":", "", "[]", "null", "{\"files\":7}")) {
      Files.writeString(description, broken);
      assertThatThrownBy(() -> Spool.read(upload))
          .as(broken)
          .isInstanceOf(Spool.DamagedException.class);
    }
    Files.delete(description);
    Files.createSymbolicLink(description, Files.writeString(work.resolve("other"), "{}"));
    assertThatThrownBy(() -> Spool.read(upload)).hasMessageContaining("is no file of its own");
  }

  /** Nor is anything written where a prepared link leads. */
  @Test
  void whatIsPutAsideStaysInTheSpool() throws IOException {
    Spool spool = new Spool(work.resolve("spool"));
    kept(spool);
    Path elsewhere = Files.createDirectories(work.resolve("elsewhere"));
    Files.writeString(elsewhere.resolve("upload.json"), "{}");
    Path linked = Files.createSymbolicLink(spool.directory().resolve("0"), elsewhere);
    Path aside = spool.setAside(linked, "it is a link");
    assertThat(aside).isSymbolicLink().isEqualTo(spool.directory().resolve("refused/0"));
    assertThat(aside.resolveSibling("0.reason.txt")).hasContent("it is a link");
    assertThat(elsewhere.toFile().list()).containsExactly("upload.json");

    Spool prepared = new Spool(work.resolve("prepared"));
    Path upload = kept(prepared).path();
    Files.createSymbolicLink(prepared.directory().resolve("refused"), elsewhere);
    assertThatThrownBy(() -> prepared.setAside(upload, "no")).isInstanceOf(IOException.class);
    assertThat(elsewhere.toFile().list()).containsExactly("upload.json");
  }
}
