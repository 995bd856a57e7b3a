package org.vinecellar.core.bundles;

import java.io.IOException;
import java.io.InputStream;
import java.util.HashSet;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipException;
import java.util.zip.ZipInputStream;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.streams.CountingStream;

/**
 * Goes through the files of a bundle, which comes as a zip file. Nothing is written to a disk under
 * a name that it tells; names that lead elsewhere are refused all the same, since a bundle that has
 * them is none. Links in it are files that hold a path.
 */
public final class BundleZip {
  private static final int MAX_NAME = 600;
  private static final long FREE_BYTES = 10L << 20;

  private final Limits limits;

  /**
   * What a bundle may be.
   *
   * @param maxBytes of all files, unpacked
   * @param maxFiles how many
   * @param maxRatio of unpacked bytes to packed ones, beyond the first 10 MiB
   */
  public record Limits(long maxBytes, int maxFiles, int maxRatio) {}

  /** Takes files. */
  @FunctionalInterface
  public interface Handler {
    /**
     * A file of the bundle.
     *
     * @param path with forward slashes, without any at the beginning
     * @param content to be read before this returns; its bytes count against the limits
     */
    void file(String path, InputStream content) throws IOException;
  }

  /** A reader with those limits. */
  public BundleZip(Limits limits) {
    this.limits = limits;
  }

  /**
   * Reads it.
   *
   * @return how many files there were
   * @throws CellarException {@code INVALID_VALUE} when it is no zip file, or has names that lead
   *     elsewhere; {@code TOO_LARGE} when it passes a limit
   * @throws IOException when the stream itself fails
   */
  public int read(InputStream packed, Handler handler) throws IOException {
    CountingStream counted = new CountingStream(packed);
    Set<String> seen = new HashSet<>();
    long[] unpacked = new long[1];
    try (ZipInputStream zip = new ZipInputStream(counted)) {
      for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
        if (entry.isDirectory()) {
          continue;
        }
        String path = path(entry.getName());
        if (!seen.add(path)) {
          throw invalid("has the file “" + path + "” twice");
        }
        if (seen.size() > limits.maxFiles()) {
          throw tooLarge("has more than " + limits.maxFiles() + " files");
        }
        InputStream content = new Limited(zip, counted, unpacked);
        handler.file(path, content);
        content.transferTo(java.io.OutputStream.nullOutputStream());
      }
    } catch (ZipException | IllegalArgumentException e) {
      throw invalid("is no zip file that can be read: " + e.getMessage());
    }
    if (seen.isEmpty()) {
      throw invalid("is no zip file, or is empty");
    }
    return seen.size();
  }

  private static String path(String name) {
    String plain = name.replace('\\', '/');
    boolean leads =
        plain.startsWith("/")
            || plain.matches("^[A-Za-z]:.*")
            || plain.length() > MAX_NAME
            || plain.chars().anyMatch(c -> c < 0x20);
    for (String word : plain.split("/", -1)) {
      leads |= word.equals("..") || word.equals(".") || word.isEmpty();
    }
    if (leads) {
      throw invalid(
          "has a file whose name leads elsewhere, or is none: “"
              + (plain.length() > 100 ? plain.substring(0, 100) + "…" : plain)
              + "”");
    }
    return plain;
  }

  private static CellarException invalid(String how) {
    return new CellarException(ProblemCode.INVALID_VALUE, "the bundle " + how);
  }

  private static CellarException tooLarge(String how) {
    return new CellarException(ProblemCode.TOO_LARGE, "the bundle " + how);
  }

  /** Stops where a limit is passed; does not close the zip file. */
  private final class Limited extends CountingStream {
    private final CountingStream packed;
    private final long[] unpacked;

    Limited(ZipInputStream zip, CountingStream packed, long[] unpacked) {
      super(zip);
      this.packed = packed;
      this.unpacked = unpacked;
    }

    @Override
    protected void counted(int more) {
      unpacked[0] += more;
      if (unpacked[0] > limits.maxBytes()) {
        throw tooLarge("holds more than " + (limits.maxBytes() >> 20) + " MiB unpacked");
      }
      if (unpacked[0] > FREE_BYTES && unpacked[0] / limits.maxRatio() > packed.count()) {
        throw tooLarge("unpacks to more than " + limits.maxRatio() + " times its size");
      }
    }

    @Override
    public void close() {
      // the zip file goes on
    }
  }
}
