package org.vinecellar.core.bundles;

import java.io.IOException;
import java.io.InputStream;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.contents.Content;

/** Keeps bundles and finds them. */
public interface BundleStore {
  /** A bundle as it comes: a zip file. */
  @FunctionalInterface
  interface Packed {
    InputStream open() throws IOException;
  }

  /**
   * What to keep.
   *
   * @param indexPath the file that opens first; must be in it
   */
  record NewBundle(String title, String indexPath, Packed content) {}

  /** Limits of a stream. */
  record StreamLimits(int days, int megabytes) {}

  /** A file of a bundle. */
  record BundleFile(String path, long bytes, long blobId) {}

  /**
   * Keeps a bundle with a part, all or nothing. One with the same title that the part had is
   * replaced.
   */
  Bundle add(
      int projectId, String stream, int runNumber, NewBundle bundle, BundleZip zip, Instant now);

  /** Those of a run, by title. */
  List<Bundle> ofRun(int projectId, long runId);

  /**
   * The latest of a stream.
   *
   * @param title null for whichever is the latest
   */
  Optional<Bundle> latest(int projectId, String stream, @Nullable String title);

  Optional<Bundle> find(int projectId, long id);

  Optional<BundleFile> file(int projectId, long bundleId, String path);

  /** The content of a file. */
  Content content(int projectId, BundleFile file);

  /** What the stream is limited to; empty where it sets nothing itself. */
  Optional<Integer> megabytes(int projectId, String stream);

  /**
   * Drops bundles that are older than their stream allows.
   *
   * @param usualDays for streams that set nothing themselves
   * @return how many
   */
  int dropOld(int usualDays, Instant now);

  /** A secret of the service that every instance knows; made when there is none. */
  byte[] secret(String name);
}
