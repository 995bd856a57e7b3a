package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** The page on filters says what the catalogue says; {@code -Dvine.docs=write} writes it anew. */
class FiltersPageTest {
  private static final Path PAGE = Path.of("../docs/FILTERS.md");
  private static final String BEGIN = "<!-- made from the catalogue -->\n";
  private static final String END = "<!-- end -->\n";

  private static String catalogue() {
    StringBuilder text = new StringBuilder();
    for (Thing thing : Thing.values()) {
      text.append("\n### ").append(title(thing)).append("\n\n");
      text.append(title(thing)).append(": ").append(thing.meaning()).append(".\n\n");
      text.append("| name | kind | what it is |\n|---|---|---|\n");
      for (Attribute one : thing.attributes()) {
        text.append("| `").append(one.word()).append(one.isKeyed() ? ".KEY" : "").append("` | ");
        text.append(one.kind().word()).append(one.isMany() ? ", several" : "").append(" | ");
        text.append(one.meaning());
        if (!one.choices().isEmpty()) {
          text.append(": ");
          text.append(
              one.choices().stream()
                  .map(word -> "`" + word + "`")
                  .collect(Collectors.joining(", ")));
        }
        text.append(" |\n");
      }
      for (Relation one : thing.relations()) {
        text.append("| `").append(one.word()).append("[…]` | ").append(one.to().word());
        text.append(" | ").append(one.meaning()).append(" |\n");
      }
    }
    return text.append('\n').toString();
  }

  private static String title(Thing thing) {
    return thing.name().charAt(0) + thing.word().substring(1);
  }

  @Test
  void thePageIsMadeFromTheCatalogue() throws IOException {
    String page = Files.readString(PAGE);
    int begin = page.indexOf(BEGIN) + BEGIN.length();
    int end = page.indexOf(END);
    String wanted = page.substring(0, begin) + catalogue() + page.substring(end);
    if ("write".equals(System.getProperty("vine.docs"))) {
      Files.writeString(PAGE, wanted);
    }
    assertThat(Files.readString(PAGE)).isEqualTo(wanted);
  }

  /** Every filter that the page shows can be understood. */
  @Test
  void everyExampleIsAFilter() throws IOException {
    Matcher examples =
        Pattern.compile("(?m)^\\| `([^|]+)` \\| (runs|results|tests|groups) \\|")
            .matcher(Files.readString(PAGE));
    int seen = 0;
    while (examples.find()) {
      String things = examples.group(2);
      Thing thing =
          List.of(Thing.values()).stream()
              .filter(one -> (one.word() + "s").equals(things))
              .findFirst()
              .orElseThrow();
      assertThat(Resolver.read(examples.group(1), thing, Instant.EPOCH))
          .isNotEqualTo(Criterion.EVERYTHING);
      seen++;
    }
    assertThat(seen).isGreaterThan(8);
  }
}
