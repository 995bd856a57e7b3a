package org.vinecellar.service.ingest;

import io.quarkus.runtime.StartupEvent;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;
import java.util.UUID;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/**
 * Where uploads lie while they are taken in: a directory of the service's own, that nobody else may
 * enter and nobody else made. What a killed service left there goes at the next start.
 */
@Singleton
public class UploadSpool {
  private static final Logger LOG = Logger.getLogger(UploadSpool.class);
  private static final Set<PosixFilePermission> MINE = PosixFilePermissions.fromString("rwx------");
  private static final FileAttribute<Set<PosixFilePermission>> AS_MINE =
      PosixFilePermissions.asFileAttribute(MINE);

  private final Path directory;
  private @Nullable FileChannel channel;
  private @Nullable FileLock lock;

  UploadSpool(VineConfig config) {
    this.directory = Path.of(config.data().dir()).toAbsolutePath().normalize().resolve("uploads");
  }

  void start(@Observes StartupEvent event) {
    try {
      Path parent = directory.getParent();
      if (parent != null && !Files.isDirectory(parent)) {
        Files.createDirectories(parent, AS_MINE);
      }
      if (!Files.exists(directory, LinkOption.NOFOLLOW_LINKS)) {
        Files.createDirectory(directory, AS_MINE);
      }
      own();
      channel =
          FileChannel.open(
              directory.resolve("lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
      lock = channel.tryLock();
      if (lock == null) {
        throw refused("another instance uses it; give each one a directory (VINE_DATA_DIR)");
      }
      sweep();
    } catch (IOException e) {
      throw refused("it cannot be used: " + e);
    }
  }

  /** Its mode is set, never its owner: whoever prepared it for us could still look inside. */
  private void own() throws IOException {
    if (!Files.isDirectory(directory, LinkOption.NOFOLLOW_LINKS)) {
      throw refused("it is not a directory");
    }
    Path probe = Files.createTempFile(directory, "mine", null);
    boolean mine =
        Files.getOwner(directory, LinkOption.NOFOLLOW_LINKS).equals(Files.getOwner(probe));
    Files.delete(probe);
    if (!mine) {
      throw refused("it belongs to somebody else; remove it");
    }
    Files.setPosixFilePermissions(directory, MINE);
  }

  private CellarException refused(String why) {
    return new CellarException(
        ProblemCode.INTERNAL, "the directory for uploads, " + directory + ": " + why);
  }

  private void sweep() throws IOException {
    int swept = 0;
    try (var old = Files.newDirectoryStream(directory)) {
      for (Path one : old) {
        if (!one.getFileName().toString().equals("lock")) {
          remove(one);
          swept++;
        }
      }
    }
    if (swept > 0) {
      LOG.infof("removed %d uploads that a service left behind which was killed", swept);
    }
  }

  /** A new directory for one upload. */
  Path create() {
    try {
      return Files.createDirectory(directory.resolve(UUID.randomUUID().toString()), AS_MINE);
    } catch (IOException e) {
      throw UploadFiles.failed(e);
    }
  }

  /** Takes an upload's directory away with all that is in it. */
  static void remove(Path path) {
    try {
      Files.walkFileTree(
          path,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes)
                throws IOException {
              Files.delete(file);
              return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult postVisitDirectory(Path at, @Nullable IOException failure)
                throws IOException {
              Files.delete(at);
              return FileVisitResult.CONTINUE;
            }
          });
    } catch (IOException e) {
      LOG.warnf("an upload’s files stay in %s until the next start: %s", path, e);
    }
  }
}
