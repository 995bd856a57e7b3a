package org.vinecellar.client.command;

import java.io.BufferedInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.FileVisitOption;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.zip.ZipException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.core.attachments.AttachmentMarks;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.TestResult;

/**
 * Files to send beside result files: those of directories that the call names, and those that the
 * result files themselves name. A result file may name only what lies below the working directory:
 * it comes from tests, and must not make us send what is elsewhere on the machine.
 */
final class NamedAttachments {
  private static final int MOST = 10_000;
  private static final byte[] WORD = {'t', 't', 'a', 'c', 'h', 'm', 'e', 'n', 't'};
  private static final byte[] MARK = {'T', 'T', 'A', 'C', 'H', 'M', 'E', 'N', 'T'};
  private static final byte[] TRX = {'R', 'e', 's', 'u', 'l', 't', 'F', 'i', 'l', 'e'};

  private final Path work = Path.of("").toAbsolutePath().normalize();
  private final Terminal terminal;
  private final Map<Path, String> found = new LinkedHashMap<>();
  private int outside;
  private int leadingOut;

  NamedAttachments(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Adds all files below a directory; links that lead out of it are left out. */
  void directory(String name) {
    Path directory = Path.of(name);
    if (!Files.isDirectory(directory)) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND,
          "there is no directory " + name + " to attach. Nothing was sent.");
    }
    try (Stream<Path> all = Files.walk(directory, 30, new FileVisitOption[0])) {
      for (Path file : (Iterable<Path>) all.filter(Files::isRegularFile).sorted()::iterator) {
        if (isBelow(file, directory)) {
          add(file, file.toString());
        } else {
          leadingOut++;
        }
      }
    } catch (IOException e) {
      throw new CommandException(ExitCode.UNREADABLE, name + " cannot be read: " + e);
    }
  }

  private void add(Path file, String name) {
    if (found.size() < MOST) {
      found.putIfAbsent(file.toAbsolutePath().normalize(), name);
    }
  }

  /** Adds what a result file names, as far as it is there. */
  void namedIn(Path resultFile) {
    try {
      if (mayName(resultFile)) {
        read(resultFile);
      }
    } catch (ZipException | EOFException e) {
      terminal.note(resultFile + ": attachments were not looked for, since it is damaged");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (UnreadableFileException e) {
      terminal.note(resultFile + ": attachments were not looked for, since it " + e.text());
    }
  }

  /** Reading takes time; nearly all files name nothing, which a look at their bytes tells. */
  private static boolean mayName(Path file) throws IOException {
    try (InputStream raw = new BufferedInputStream(Files.newInputStream(file));
        InputStream in = Formats.unpacked(raw)) {
      byte[] window = new byte[1 << 16];
      int kept = 0;
      for (int n = in.read(window, kept, window.length - kept);
          n >= 0;
          n = in.read(window, kept, window.length - kept)) {
        int length = kept + n;
        if (hasAny(window, length)) {
          return true;
        }
        kept = Math.min(length, TRX.length);
        System.arraycopy(window, length - kept, window, 0, kept);
      }
      return false;
    }
  }

  /** One pass over the bytes: this is done to every file that is sent. */
  private static boolean hasAny(byte[] bytes, int length) {
    for (int i = 0; i + TRX.length <= length; i++) {
      byte b = bytes[i];
      if ((b == 't' && isAt(bytes, i, WORD))
          || (b == 'T' && isAt(bytes, i, MARK))
          || (b == 'R' && isAt(bytes, i, TRX))) {
        return true;
      }
    }
    return false;
  }

  private static boolean isAt(byte[] bytes, int at, byte[] word) {
    for (int i = 1; i < word.length; i++) {
      if (bytes[at + i] != word[i]) {
        return false;
      }
    }
    return true;
  }

  private void read(Path file) throws IOException {
    try (InputStream raw = Files.newInputStream(file);
        InputStream in = Formats.unpacked(raw)) {
      Formats.read(
          in,
          file.toString(),
          ReadLimits.DEFAULT,
          CsvColumns.NONE,
          new Paths(file.toAbsolutePath()));
    }
  }

  private final class Paths implements CaseHandler {
    private final Path resultFile;

    Paths(Path resultFile) {
      this.resultFile = resultFile;
    }

    @Override
    public void onCase(TestResult result, Repeat repeat) {
      AttachmentMarks.taken(result)
          .attempts()
          .forEach(attempt -> attempt.attachments().forEach(this::take));
    }

    private void take(Attachment attachment) {
      String path = attachment.path();
      if (path == null) {
        return;
      }
      List<Path> places = new ArrayList<>();
      try {
        places.add(work.resolve(path).normalize());
        Path parent = resultFile.getParent();
        if (parent != null) {
          places.add(parent.resolve(path).normalize());
        }
      } catch (InvalidPathException e) {
        return;
      }
      for (Path place : places) {
        if (Files.isRegularFile(place)) {
          if (isBelow(place, work)) {
            add(place, path);
          } else {
            outside++;
          }
          return;
        }
      }
    }

    @Override
    public void onFormat(String format) {}

    @Override
    public void onProperty(String name, String value) {}

    @Override
    public void onProblem(String problem) {}

    @Override
    public void onBrokenOff(String how) {}
  }

  /** Also when links lead elsewhere. */
  private static boolean isBelow(Path file, Path directory) {
    try {
      return file.toRealPath().startsWith(directory.toRealPath());
    } catch (IOException e) {
      return false;
    }
  }

  /** What to send. */
  List<UploadForm.FilePart> parts() {
    if (outside > 0) {
      terminal.note(
          outside
              + " attachments lie outside of the working directory and are not sent; name their"
              + " directory with --attach if they should be");
    }
    if (leadingOut > 0) {
      terminal.note(
          leadingOut
              + (leadingOut == 1 ? " link leads" : " links lead")
              + " out of the attached directory and are not sent");
    }
    return found.entrySet().stream()
        .map(entry -> new UploadForm.FilePart("attachment", entry.getKey(), entry.getValue()))
        .toList();
  }
}
