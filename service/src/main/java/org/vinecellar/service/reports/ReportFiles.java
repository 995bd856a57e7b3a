package org.vinecellar.service.reports;

import jakarta.inject.Singleton;
import jakarta.ws.rs.core.StreamingOutput;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Places;

/**
 * Makes large answers, a few at a time, on the disk: what is made takes memory, and a reader as
 * long as it likes. The file has no name any more when it is read, so that none is left behind.
 */
@Singleton
class ReportFiles {
  private static final int AT_ONCE = 2;
  private static final Duration WAIT = Duration.ofSeconds(5);

  /** So many are read at a time, however slowly. */
  private static final int READERS = 8;

  private final Semaphore places = new Semaphore(AT_ONCE);
  private final Places readers = new Places("reports", READERS);
  private final Path directory;

  ReportFiles(VineConfig config) {
    this.directory = Path.of(config.data().dir()).toAbsolutePath().normalize();
  }

  /** Writes an answer. */
  interface Writing {
    void to(OutputStream out) throws IOException;
  }

  /**
   * The answer, all of it made.
   *
   * @throws TryLaterException {@code TOO_MANY_AT_ONCE}
   */
  StreamingOutput made(Writing writing) {
    if (!places.tryAcquire()) {
      throw new TryLaterException(
          ProblemCode.TOO_MANY_AT_ONCE,
          "too many reports are being made at once; try again in a moment",
          WAIT);
    }
    try {
      Object reader = readers.take();
      try {
        InputStream in = onDisk(writing);
        return out -> {
          try (in) {
            in.transferTo(out);
          } finally {
            readers.giveBack(reader);
          }
        };
      } catch (IOException | RuntimeException e) {
        readers.giveBack(reader);
        throw e;
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } finally {
      places.release();
    }
  }

  private InputStream onDisk(Writing writing) throws IOException {
    Files.createDirectories(directory);
    Path file = Files.createTempFile(directory, "report", null);
    try {
      try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(file))) {
        writing.to(out);
      }
      return Files.newInputStream(file);
    } finally {
      Files.delete(file);
    }
  }
}
