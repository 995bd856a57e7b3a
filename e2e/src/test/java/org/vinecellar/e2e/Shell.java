package org.vinecellar.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;

/** Runs a command as a person or a pipeline would. */
final class Shell {
  static final Path ROOT = Path.of(System.getProperty("vine.root", "..")).toAbsolutePath();

  private Shell() {}

  /** How a command ended and what it printed. */
  record Result(int code, String out, String err) {}

  static Result run(Path directory, Map<String, String> environment, List<String> command) {
    try {
      Path out = Files.createTempFile("out", ".txt");
      Path err = Files.createTempFile("err", ".txt");
      ProcessBuilder builder =
          new ProcessBuilder(command)
              .directory(directory.toFile())
              .redirectInput(Path.of("/dev/null").toFile())
              .redirectOutput(out.toFile())
              .redirectError(err.toFile());
      builder.environment().keySet().removeIf(key -> key.startsWith("VINE_"));
      builder.environment().putAll(environment);
      Process process = builder.start();
      if (!process.waitFor(5, TimeUnit.MINUTES)) {
        process.destroyForcibly();
        throw new AssertionError(command + " did not end in five minutes");
      }
      Result result = new Result(process.exitValue(), Files.readString(out), Files.readString(err));
      Files.delete(out);
      Files.delete(err);
      return result;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }
}
