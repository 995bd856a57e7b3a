package org.vinecellar.client.spool;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.vinecellar.client.http.UploadForm;

/**
 * An upload in the spool that is still being written. As long as its process lives, it holds a lock
 * on the file, which ends with it however it ends: what nobody holds is an upload that waits.
 */
public final class Draft implements AutoCloseable {
  private static final String BEGIN = ".pipe-";

  private final Path directory;
  private final FileChannel channel;
  private final String url;
  private final String project;
  private final String fileName;
  private final Instant made;

  private Draft(
      Path directory,
      FileChannel channel,
      String url,
      String project,
      String fileName,
      Instant made) {
    this.directory = directory;
    this.channel = channel;
    this.url = url;
    this.project = project;
    this.fileName = fileName;
    this.made = made;
  }

  static Draft begin(
      Path spool,
      String url,
      String project,
      List<Map.Entry<String, String>> fields,
      String fileName,
      Instant now)
      throws IOException {
    String name = String.format("%013d-%s", now.toEpochMilli(), UUID.randomUUID());
    // Nobody adopts it before it is locked.
    Path hidden = Files.createDirectory(spool.resolve(".draft-" + name));
    FileChannel channel =
        FileChannel.open(
            hidden.resolve("0"), StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    Path directory = hidden;
    try {
      FileLock unused = channel.lock();
      directory = Files.move(hidden, spool.resolve(BEGIN + name), StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      // A disk without locks: nobody could tell whether its process lives, so it stays hidden.
    }
    Draft draft = new Draft(directory, channel, url, project, fileName, now);
    draft.describe(fields);
    return draft;
  }

  /** Says what upload it is now. */
  public void describe(List<Map.Entry<String, String>> fields) throws IOException {
    Spool.describe(directory, url, project, fields, List.of(part()), made);
  }

  /** Its file, as it is sent. */
  public UploadForm.FilePart part() {
    return new UploadForm.FilePart("file", content(), fileName);
  }

  /** What came until now. */
  public Path content() {
    return directory.resolve("0");
  }

  /** To write to it; closing that changes nothing. */
  public OutputStream out() {
    return new java.io.FilterOutputStream(Channels.newOutputStream(channel)) {
      @Override
      public void write(byte[] bytes, int offset, int length) throws IOException {
        out.write(bytes, offset, length);
      }

      @Override
      public void close() throws IOException {
        flush();
      }
    };
  }

  /** It was sent, or is nothing. */
  public void remove() throws IOException {
    // First the name, as long as it is locked: nobody adopts what is going.
    Path going = directory.resolveSibling(".gone" + directory.getFileName());
    Path unused = Files.move(directory, going, StandardCopyOption.ATOMIC_MOVE);
    channel.close();
    Spool.delete(going);
  }

  /** Lets it wait in the spool, under this path. */
  public Path leave() throws IOException {
    Path waiting = waiting(directory);
    Path unused = Files.move(directory, waiting, StandardCopyOption.ATOMIC_MOVE);
    channel.close();
    return waiting;
  }

  @Override
  public void close() throws IOException {
    channel.close();
  }

  static boolean isDraft(Path path) {
    return path.getFileName().toString().startsWith(BEGIN)
        && Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS);
  }

  private static Path waiting(Path draft) {
    String name = draft.getFileName().toString();
    return draft.resolveSibling(name.substring(name.indexOf('-') + 1));
  }

  /** False when its process lives. One of nothing is dropped. */
  static boolean adopt(Path draft) throws IOException {
    Path content = draft.resolve("0");
    if (!Files.isRegularFile(content, LinkOption.NOFOLLOW_LINKS)) {
      return false;
    }
    try (FileChannel channel = FileChannel.open(content, StandardOpenOption.WRITE);
        FileLock lock = channel.tryLock()) {
      if (lock == null) {
        return false;
      }
      if (channel.size() == 0) {
        Spool.delete(draft);
        return false;
      }
      Path unused = Files.move(draft, waiting(draft), StandardCopyOption.ATOMIC_MOVE);
      return true;
    } catch (java.nio.file.NoSuchFileException | java.nio.channels.OverlappingFileLockException e) {
      // It was sent meanwhile, or is of this very process.
      return false;
    }
  }
}
