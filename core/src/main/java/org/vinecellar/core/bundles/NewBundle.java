package org.vinecellar.core.bundles;

import java.io.IOException;
import java.io.InputStream;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.List;
import org.vinecellar.core.contents.Sha256;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * A bundle that was gone through and can be kept.
 *
 * @param indexPath the file that opens first; it is in it
 * @param entries its files, in the order of the zip file
 */
public record NewBundle(
    String title, String indexPath, List<Entry> entries, BundleZip zip, Packed content) {

  /** A zip file as it came; it can be opened again. */
  @FunctionalInterface
  public interface Packed {
    InputStream open() throws IOException;
  }

  /**
   * A file.
   *
   * @param sha256 of its content, lower-case hex
   */
  public record Entry(String path, String sha256, long bytes) {}

  /** Copies the list. */
  public NewBundle {
    entries = List.copyOf(entries);
  }

  /**
   * Goes through a zip file.
   *
   * @throws CellarException {@code INVALID_VALUE} or {@code TOO_LARGE} when it cannot be kept
   * @throws IOException when the stream itself fails
   */
  public static NewBundle of(String title, String indexPath, BundleZip zip, Packed content)
      throws IOException {
    List<Entry> entries = new ArrayList<>();
    try (InputStream packed = content.open()) {
      zip.read(
          packed,
          (path, file) -> {
            MessageDigest sha256 = Sha256.start();
            long bytes =
                new DigestInputStream(file, sha256)
                    .transferTo(java.io.OutputStream.nullOutputStream());
            entries.add(new Entry(path, Sha256.hex(sha256), bytes));
          });
    }
    if (entries.stream().noneMatch(entry -> entry.path().equals(indexPath))) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the bundle has no file “" + indexPath + "” to open first; name it (--index)");
    }
    return new NewBundle(title, indexPath, entries, zip, content);
  }

  /** All files together, unpacked. */
  public long bytes() {
    return entries.stream().mapToLong(Entry::bytes).sum();
  }
}
