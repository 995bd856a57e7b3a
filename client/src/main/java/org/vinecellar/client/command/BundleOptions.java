package org.vinecellar.client.command;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.Terminal;
import picocli.CommandLine.Option;

/** A folder of HTML that the job made, to be kept with the run. */
final class BundleOptions {
  private static final int MAX_DEPTH = 60;

  @Option(
      names = "--bundle",
      paramLabel = "DIR",
      description = "Keep this folder of HTML with the run; it opens in a tab of its page.")
  private @Nullable String bundle;

  @Option(
      names = "--title",
      paramLabel = "TEXT",
      description = "What its tab is called (the folder's name).")
  private @Nullable String title;

  @Option(
      names = "--index",
      paramLabel = "FILE",
      description = "The file in it that opens first (index.html).")
  private @Nullable String index;

  @Option(
      names = "--allow-missing-bundle",
      description = "It is fine when there is no such folder.")
  private boolean allowMissing;

  /** Packs the folder and adds it to an upload; does nothing when none is wanted. */
  void add(
      List<Map.Entry<String, String>> fields, List<UploadForm.FilePart> parts, Terminal terminal) {
    if (bundle == null) {
      return;
    }
    Path folder = Path.of(bundle);
    if (!Files.isDirectory(folder)) {
      if (allowMissing) {
        terminal.note("there is no folder " + bundle + "; the run has no bundle");
        return;
      }
      throw new CommandException(
          ExitCode.NOTHING_FOUND,
          "there is no folder "
              + bundle
              + " for the bundle. Nothing was sent. If that is as it should be, add"
              + " --allow-missing-bundle");
    }
    Path name = folder.toAbsolutePath().normalize().getFileName();
    fields.add(
        Map.entry(
            "bundle_title", title != null ? title : name == null ? "Report" : name.toString()));
    fields.add(Map.entry("bundle_index", index == null ? "index.html" : index));
    try {
      Path zip = Files.createTempFile("vine-bundle", ".zip");
      zip.toFile().deleteOnExit();
      pack(folder, zip);
      parts.add(new UploadForm.FilePart("bundle", zip, "bundle.zip"));
    } catch (IOException e) {
      throw new CommandException(
          ExitCode.UNREADABLE, bundle + " cannot be packed: " + e + ". Nothing was sent.");
    }
  }

  /** Links are not followed: a bundle holds what is in its folder. */
  private static void pack(Path folder, Path zip) throws IOException {
    List<Path> files = new ArrayList<>();
    try (Stream<Path> all = Files.walk(folder, MAX_DEPTH)) {
      all.filter(path -> Files.isRegularFile(path, java.nio.file.LinkOption.NOFOLLOW_LINKS))
          .sorted()
          .forEach(files::add);
    }
    try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(zip));
        ZipOutputStream packed = new ZipOutputStream(out)) {
      for (Path file : files) {
        packed.putNextEntry(new ZipEntry(folder.relativize(file).toString().replace('\\', '/')));
        Files.copy(file, packed);
        packed.closeEntry();
      }
    }
  }
}
