package org.vinecellar.service.ingest;

import jakarta.inject.Singleton;
import java.io.IOException;
import java.time.InstantSource;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.bundles.BundleZip;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/** The bundle of an upload: checked before anything of the upload is kept, kept after it. */
@Singleton
class BundleFields {
  private static final int MAX_FILES = 20_000;
  private static final int MAX_RATIO = 200;
  private static final int MAX_TITLE = 200;

  private final BundleStore store;
  private final VineConfig config;
  private final InstantSource clock;

  BundleFields(BundleStore store, VineConfig config, InstantSource clock) {
    this.store = store;
    this.config = config;
    this.clock = clock;
  }

  /**
   * Checks the fields and goes through the whole zip file.
   *
   * @return null when there is none
   */
  @Nullable NewBundle check(int projectId, UploadFields fields) {
    List<FormFile> bundles = fields.of("bundle");
    if (bundles.isEmpty()) {
      return null;
    }
    if (bundles.size() > 1) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "an upload takes one bundle; send the others with other parts");
    }
    FormFile file = bundles.get(0);
    String stream = String.valueOf(fields.word("stream"));
    String title = fields.word("bundle_title");
    String index = fields.word("bundle_index");
    String named = title == null || title.isBlank() ? "Report" : title.strip();
    if (named.length() > MAX_TITLE || named.chars().anyMatch(c -> c < 0x20)) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the bundle’s title has more than " + MAX_TITLE + " characters, or control characters");
    }
    String first = index == null || index.isBlank() ? "index.html" : index.replace('\\', '/');
    int megabytes = store.megabytes(projectId, stream).orElse(config.bundle().maxMegabytes());
    BundleZip zip =
        new BundleZip(new BundleZip.Limits((long) megabytes << 20, MAX_FILES, MAX_RATIO));
    try {
      return NewBundle.of(named, first, zip, file::open);
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the bundle cannot be read: " + e.getMessage(), e);
    }
  }

  /** Keeps a bundle with a run that had the results of its upload already. */
  void keepAgain(int projectId, Receipt receipt, NewBundle bundle) {
    store.add(projectId, receipt.stream(), receipt.number(), bundle, clock.instant());
  }
}
