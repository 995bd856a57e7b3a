package org.vinecellar.core.triage.tickets;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Values in templates are never more than values. */
class TemplateTest {
  @Test
  void areFilledOnce() {
    assertThat(Template.filled("{title}: {text} {other}", Map.of("title", "{text}", "text", "$1")))
        .isEqualTo("{text}: $1 {other}");
    assertThat(Template.url("http://log/{key}?q={text}", Map.of("key", "../a", "text", "ö &b=1#")))
        .isEqualTo("http://log/..%2Fa?q=%C3%B6%20%26b%3D1%23");
    assertThat(Template.url("http://log/{key}", Map.of("key", "..")))
        .isEqualTo("http://log/%2E%2E");
  }

  /** Whatever a key is, it is one step of the path and leads nowhere else. */
  @Test
  void leadWhereTheTemplateLeads() {
    Random random = new Random(5);
    for (int i = 0; i < 2_000; i++) {
      StringBuilder key = new StringBuilder();
      for (int n = random.nextInt(8); n >= 0; n--) {
        key.appendCodePoint("/?#@:%&.\\;\n ä{}€a".codePointAt(random.nextInt(17)));
      }
      URI uri =
          URI.create(Template.url("http://log.example:81/e/{key}?x=1", Map.of("key", key + "")));
      assertThat(uri.getAuthority()).isEqualTo("log.example:81");
      assertThat(uri.getPath()).isEqualTo("/e/" + key);
      assertThat(uri.normalize().getRawPath()).startsWith("/e/").isEqualTo(uri.getRawPath());
      assertThat(uri.getQuery()).isEqualTo("x=1");
    }
  }
}
