package org.vinecellar.client.command;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.client.output.Terminal;

/** Patterns that the shell left alone, and what is said when they match nothing. */
class FilePatternsTest {
  private @TempDir Path root;
  private final StringWriter said = new StringWriter();

  @BeforeEach
  void files() throws IOException {
    for (String file :
        List.of("a.xml", "b.xml", "notes.txt", "sub/c.xml", "sub/deep/d.xml", "sub/e.txt")) {
      Files.createDirectories(root.resolve(file).getParent());
      Files.writeString(root.resolve(file), "x");
    }
    Files.createDirectory(root.resolve("empty"));
  }

  private List<String> find(boolean allowEmpty, String... patterns) {
    PrintWriter err = new PrintWriter(said, true);
    Terminal terminal = new Terminal(err, err, false, Map.of());
    List<String> arguments = Arrays.stream(patterns).map(p -> root + "/" + p).toList();
    return FilePatterns.find(arguments, allowEmpty, terminal).stream()
        .map(path -> root.relativize(path).toString())
        .toList();
  }

  @Test
  void linksThatLeadElsewhereAreLeftOutAndNamed(@TempDir Path elsewhere) throws IOException {
    Files.writeString(elsewhere.resolve("secret.xml"), "x");
    Files.createSymbolicLink(root.resolve("sub/out.xml"), elsewhere.resolve("secret.xml"));
    Files.createSymbolicLink(root.resolve("sub/in.xml"), root.resolve("sub/c.xml"));
    Files.createSymbolicLink(root.resolve("sub/away"), elsewhere);

    assertThat(find(false, "sub/**/*.xml"))
        .containsExactly("sub/c.xml", "sub/deep/d.xml", "sub/in.xml");
    assertThat(said.toString()).contains("out.xml is a link that leads elsewhere");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "a.xml | a.xml",
        "*.xml | a.xml,b.xml",
        "**/*.xml | a.xml,b.xml,sub/c.xml,sub/deep/d.xml",
        "sub/**/*.xml | sub/c.xml,sub/deep/d.xml",
        "sub/*.xml | sub/c.xml",
        "{a,b}.xml | a.xml,b.xml",
        "[b-z].xml | b.xml",
        "?.xml | a.xml,b.xml",
      })
  void match(String pattern, String files) {
    assertThat(find(false, pattern)).containsExactly(files.split(","));
  }

  @Test
  void eachFileComesOnce() {
    assertThat(find(false, "b.xml", "*.xml")).containsExactly("b.xml", "a.xml");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "*.json | 3 | holds a.xml, b.xml, empty, notes.txt…",
        "none/*.xml | 3 | there is no directory",
        "empty/*.xml | 3 | is empty",
        "missing.xml | 3 | holds a.xml",
        "sub | 2 | is a directory; name its files, as in",
        "[b-.xml | 2 | is not one",
      })
  void nothingMatched(String pattern, int code, String message) {
    CommandException e = catchThrowableOfType(CommandException.class, () -> find(false, pattern));

    assertThat(e.exitCode()).isEqualTo(code);
    assertThat(e).hasMessageContaining(message);
  }

  @Test
  void halfOfTheResultsIsNotTakenForAll() {
    CommandException e =
        catchThrowableOfType(CommandException.class, () -> find(false, "a.xml", "gone/*.xml"));

    assertThat(e.exitCode()).isEqualTo(ExitCode.NOTHING_FOUND);
    assertThat(e).hasMessageContaining("gone/*.xml").hasMessageContaining("Nothing was sent");
    assertThat(find(true, "a.xml", "gone/*.xml")).containsExactly("a.xml");
    assertThat(said.toString()).contains("no file matches").contains("gone/*.xml");
  }
}
