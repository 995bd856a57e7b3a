package org.vinecellar.bench.trust;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.vinecellar.bench.figures.Figure;
import org.vinecellar.client.command.VineCommand;

/**
 * How well tests that fail by chance are told from all others by the whole product: files of
 * simulated streams are pushed run by run, and what is believed of the tests is exported.
 */
public final class VerdictsBench {
  private static final long SEED = Long.getLong("bench.verdicts.seed", 2_000);
  private static final int STREAMS = Integer.getInteger("bench.verdicts.streams", 4);
  private static final ObjectMapper JSON = new ObjectMapper();

  private final Path folder;
  private final Map<String, String> portal;
  private final Consumer<String> progress;

  /**
   * Of streams on a portal.
   *
   * @param portal address and token, as {@code vine} reads them from its environment
   * @param progress is told how far it is
   */
  public VerdictsBench(Path folder, Map<String, String> portal, Consumer<String> progress) {
    this.folder = folder;
    this.portal = portal;
    this.progress = progress;
  }

  /** All streams together. */
  public List<Figure> figures() throws IOException {
    Map<Integer, FlakyBench.Said> said = FlakyBench.nothingSaid();
    for (long seed = SEED; seed < SEED + STREAMS; seed++) {
      stream(seed, said);
      said.forEach(
          (after, now) ->
              progress.accept(String.format(Locale.ROOT, "%d runs: %s", after, now.told())));
    }
    return FlakyBench.figures("flaky through the product, after ", said);
  }

  private void stream(long seed, Map<Integer, FlakyBench.Said> said) throws IOException {
    Path files = folder.resolve("verdicts-" + seed);
    Map<String, SimulatedTest> tests = StreamFiles.write(files, seed);
    String stream = "verdicts/s" + seed;
    List<Path> runs;
    try (Stream<Path> all = Files.list(files.resolve("runs"))) {
      runs = all.sorted().toList();
    }
    for (int number = 1; number <= runs.size(); number++) {
      push(stream, runs.get(number - 1), number);
      FlakyBench.Said now = said.get(number);
      if (now != null) {
        Set<String> flaky = flaky(stream);
        int after = number;
        tests.forEach((name, test) -> now.add(test, after, flaky.contains(name)));
      }
    }
  }

  private void push(String stream, Path run, int number) throws IOException {
    JsonNode told = JSON.readTree(run.resolve("run.json").toFile());
    vine(
        OutputStream.nullOutputStream(),
        "push",
        run.resolve("results.xml").toString(),
        "--stream",
        stream,
        "--run",
        "run-" + number,
        "--commit",
        told.path("commit").asText(),
        "--branch",
        told.path("branch").asText(),
        "--at",
        told.path("started_at").asText(),
        "--label",
        "env=" + told.path("env").asText());
  }

  private Set<String> flaky(String stream) throws IOException {
    ByteArrayOutputStream lines = new ByteArrayOutputStream();
    vine(lines, "export", "tests", "--stream", stream, "--format", "ndjson");
    Set<String> flaky = new HashSet<>();
    for (String line : lines.toString(StandardCharsets.UTF_8).lines().toList()) {
      JsonNode test = JSON.readTree(line);
      if (test.path("verdict").asText().equals("flaky")) {
        flaky.add(test.path("test").asText());
      }
    }
    return flaky;
  }

  private void vine(OutputStream out, String... words) throws IOException {
    int code =
        VineCommand.run(
            words, new PrintStream(out, true, StandardCharsets.UTF_8), System.err, portal);
    if (code != 0) {
      throw new IOException("vine " + words[0] + " ended with " + code);
    }
  }
}
