package org.vinecellar.service.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class SecretsTest {
  @Test
  void secretsAreRandomAndFitIntoAnAddress() {
    assertThat(IntStream.range(0, 500).mapToObj(i -> Secrets.random(24)))
        .doesNotHaveDuplicates()
        .allSatisfy(secret -> assertThat(secret).matches("[A-Za-z0-9_-]{24,}"));
  }

  @Test
  void onlyTheHashIsKeptAndItTellsNothing() {
    String hash = Secrets.hash("vine_main_secret");

    assertThat(hash).isEqualTo(Secrets.hash("vine_main_secret")).doesNotContain("secret");
    assertThat(Secrets.hash("vine_main_secreu")).isNotEqualTo(hash);
  }

  @Test
  void passwordsAreHashedSlowlyWithASaltOfTheirOwn() {
    String one = SignIn.hash("correct horse");

    assertThat(one).startsWith("$2a$12$").isNotEqualTo(SignIn.hash("correct horse"));
  }
}
