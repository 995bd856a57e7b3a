package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.List;
import org.vinecellar.core.bundles.NewBundle;

/** Takes one upload into the store, all or nothing. Used by one thread. */
public interface UploadWriter extends ResultSink, AutoCloseable {
  /**
   * Keeps the files as they came, packed.
   *
   * @param contents what tells the content of each from others, however it is packed
   */
  void keepRaw(List<? extends SourceFile> files, List<String> contents);

  /** Keeps a bundle with the run; one with the same title that the run has is replaced. */
  void keepBundle(NewBundle bundle);

  /** Makes all of it visible at once and durable. */
  Receipt commit(UploadRequest request, UploadReport report, Instant now);

  /** Takes everything back when there was no commit. */
  @Override
  void close();
}
