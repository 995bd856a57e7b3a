package org.vinecellar.core.bundles;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.contents.Content;

/** Keeps bundles and finds them. */
public interface BundleStore {
  /** A file of a bundle. */
  record BundleFile(String path, long bytes, long blobId) {}

  /**
   * Keeps a bundle with a run whose results are there already, all or nothing. One with the same
   * title that the run had is replaced. With results that come, it is kept by their upload.
   */
  void add(int projectId, String stream, int runNumber, NewBundle bundle, Instant now);

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
}
