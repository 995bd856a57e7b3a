package org.vinecellar.listeners.junit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.platform.engine.discovery.DiscoverySelectors.selectClass;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Disabled;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestReporter;
import org.junit.jupiter.api.condition.EnabledIfSystemProperty;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.junit.platform.launcher.core.LauncherDiscoveryRequestBuilder;
import org.junit.platform.launcher.core.LauncherFactory;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.ingest.ResultSink;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadReader;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.TestResult;

/** A real run of the JUnit Platform, told to a client that only writes down what it is told. */
class VineListenerTest {
  private @TempDir Path work;
  private final List<TestResult> results = new ArrayList<>();

  @EnabledIfSystemProperty(named = "vine.sample", matches = "yes")
  @Tag("tides")
  static class Sample {
    @Test
    void passes(TestReporter reporter) {
      reporter.publishEntry("berth", "½ \"B\"\n\uD83D\uDEA2");
    }

    @Test
    void fails() {
      Assertions.assertEquals("06:40", "06:42");
    }

    @Test
    void breaks() {
      throw new IllegalStateException("no gauge");
    }

    @Test
    @Disabled("no winter tides")
    void winter() {}

    @Test
    void assumes() {
      Assumptions.assumeTrue(false, "only on ebb");
    }

    @ParameterizedTest
    @ValueSource(strings = {"Holm", "Æsvik"})
    void ports(String port) {
      Assertions.assertEquals("Holm", port);
    }

    @Nested
    class Night {
      @BeforeAll
      static void noBoat() {
        throw new IllegalStateException("no night boat");
      }

      @Test
      void cabins() {}
    }
  }

  /** Fails the first time and passes the second, as what a build tool tries again. */
  @EnabledIfSystemProperty(named = "vine.sample", matches = "yes")
  static class Wavering {
    private static int tries;

    @Test
    void sails() {
      Assertions.assertTrue(tries++ > 0, "no tide yet");
    }
  }

  private static void plan(Map<String, String> environment, Class<?>... classes) {
    System.setProperty("vine.sample", "yes");
    try {
      LauncherFactory.create()
          .execute(
              LauncherDiscoveryRequestBuilder.request()
                  .selectors(Stream.of(classes).map(one -> selectClass(one)).toList())
                  .build(),
              new VineListener(environment));
    } finally {
      System.clearProperty("vine.sample");
    }
  }

  private UploadReport run(Map<String, String> environment) throws IOException {
    plan(environment, Sample.class, Sample.Night.class);
    return told();
  }

  private UploadReport told() throws IOException {
    EventPipe.endLatest();
    Path told = work.resolve("told");
    byte[] bytes = Files.exists(told) ? Files.readAllBytes(told) : new byte[0];
    SourceFile file =
        new SourceFile() {
          @Override
          public String name() {
            return "told";
          }

          @Override
          public InputStream open() {
            return new ByteArrayInputStream(bytes);
          }
        };
    return UploadReader.read(
        List.of(file),
        ReadLimits.DEFAULT,
        new ResultSink() {
          @Override
          public void first(int ordinal, TestResult result) {
            results.add(result);
          }

          @Override
          public void again(Again again) {}
        });
  }

  private TestResult named(String name) {
    return results.stream()
        .filter(result -> result.test().displayName().equals(name))
        .findFirst()
        .orElseThrow();
  }

  /** The settings of a client that writes down what it is told. */
  private Map<String, String> writingDown() throws IOException {
    Path client =
        Files.writeString(
            work.resolve("client"), "#!/bin/sh\nexec cat >> " + work.resolve("told") + "\n");
    assertThat(client.toFile().setExecutable(true)).isTrue();
    return Map.of("VINE_URL", "http://portal.example", "VINE_COMMAND", client.toString());
  }

  @Test
  void whatIsTriedAgainInAFurtherPlanIsOneTest() throws IOException {
    Map<String, String> environment = writingDown();
    plan(environment, Sample.class, Wavering.class);
    plan(environment, Wavering.class);

    UploadReport report = told();
    assertThat(report.files().get(0).problems()).isEmpty();
    assertThat(report.total()).isEqualTo(new Counts(3, 2, 1, 2, 0, 1, 1));
  }

  @Test
  void everyResultIsToldWithItsNamesAndFailures() throws IOException {
    UploadReport report = run(writingDown());

    assertThat(report.unreadable()).isEmpty();
    assertThat(report.files().get(0).problems()).isEmpty();
    assertThat(report.total()).isEqualTo(new Counts(2, 2, 1, 2, 0, 0, 1));
    assertThat(report.properties()).containsKey("java.version");
    assertThat(named("passes(TestReporter)").properties())
        .containsEntry("berth", "½ \"B\"\n\uD83D\uDEA2");
    assertThat(named("passes(TestReporter)").tags()).containsExactly("tides");
    assertThat(named("passes(TestReporter)").test().suite().names())
        .containsExactly(Sample.class.getName());
    assertThat(named("ports(String)[port=Æsvik]").attempts().get(0).firstLine()).contains("Holm");
    assertThat(named("winter").attempts().get(0).firstLine()).contains("no winter tides");
    assertThat(named("breaks").attempts().get(0).failures().get(0).trace())
        .contains("VineListenerTest");
    assertThat(named("(set-up of the suite)").test().suite().names())
        .containsExactly(Sample.Night.class.getName());
  }

  @Test
  void withoutAPortalOrAClientTheTestsRunAllTheSame() throws IOException {
    assertThat(run(Map.of()).files().get(0).error()).startsWith("is empty");
    assertThat(
            run(Map.of("VINE_URL", "http://portal.example", "VINE_COMMAND", "/no/such/client"))
                .files()
                .get(0)
                .error())
        .startsWith("is empty");
  }
}
