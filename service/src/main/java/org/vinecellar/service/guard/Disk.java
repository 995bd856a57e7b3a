package org.vinecellar.service.guard;

import jakarta.inject.Singleton;
import java.io.IOException;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.OptionalLong;
import java.util.concurrent.atomic.AtomicLong;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;

/**
 * Room on the disks that the service can see: its own, and PostgreSQL's when it is told where that
 * is. Before they are full nothing more is taken in, so that all can still be read. Thread-safe.
 */
@Singleton
public class Disk {
  /** When it is worth trying again. */
  public static final Duration LATER = Duration.ofMinutes(1);

  /** After the database said that its disk is full, nothing is tried for so long. */
  private static final long FULL_NANOS = Duration.ofSeconds(20).toNanos();

  private static final long NEVER = Long.MIN_VALUE;

  private final VineConfig config;
  private final AtomicLong fullSince = new AtomicLong(NEVER);
  private final AtomicLong promised = new AtomicLong();

  Disk(VineConfig config) {
    this.config = config;
  }

  /** Free bytes by what lies there; only of directories that can be asked. */
  public Map<String, Long> free() {
    Map<String, Long> free = new LinkedHashMap<>();
    freeAt(config.data().dir()).ifPresent(bytes -> free.put("uploads", bytes));
    config
        .data()
        .database()
        .ifPresent(dir -> freeAt(dir).ifPresent(bytes -> free.put("database", bytes)));
    return free;
  }

  private static OptionalLong freeAt(String directory) {
    try {
      Path at = Path.of(directory).toAbsolutePath();
      while (at.getParent() != null && !Files.exists(at)) {
        at = at.getParent();
      }
      FileStore store = Files.getFileStore(at);
      return OptionalLong.of(store.getUsableSpace());
    } catch (IOException e) {
      return OptionalLong.empty();
    }
  }

  /** Bytes that are kept free. */
  public long reserve() {
    return config.data().reserveMegabytes() << 20;
  }

  /** Whether nothing more is taken in. */
  public boolean isFull() {
    return saidFull() || free().values().stream().anyMatch(bytes -> bytes < reserve());
  }

  private boolean saidFull() {
    long since = fullSince.get();
    return since != NEVER && System.nanoTime() - since < FULL_NANOS;
  }

  /** The database says that its disk is full. */
  public void noteFull() {
    fullSince.set(System.nanoTime());
  }

  /**
   * Makes sure that there is room for what is about to come.
   *
   * @param bytes that will be written, as far as it is known
   * @throws TryLaterException {@code DISK_FULL}
   */
  public void require(long bytes) {
    if (saidFull()) {
      throw full("the disk of the database is full");
    }
    free()
        .forEach(
            (what, free) -> {
              if (free - Math.max(bytes, 0) - promised.get() < reserve()) {
                throw full(
                    "the disk for "
                        + (what.equals("database") ? "the database" : "uploads")
                        + " has "
                        + (free >> 20)
                        + " MiB left, of which "
                        + config.data().reserveMegabytes()
                        + " MiB are kept free");
              }
            });
  }

  /** Bytes that somebody was let in to write; taken back with a negative number. */
  public void promise(long bytes) {
    promised.addAndGet(bytes);
  }

  private static TryLaterException full(String how) {
    return new TryLaterException(
        ProblemCode.DISK_FULL,
        how + ": nothing is taken in until there is more room. All that was kept can be read",
        LATER);
  }
}
