package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.List;

/** Takes one upload into the store, all or nothing. Used by one thread. */
public interface UploadWriter extends ResultSink, AutoCloseable {
  /** Keeps the files as they came, packed. */
  void keepRaw(List<? extends SourceFile> files);

  /** Makes all of it visible at once and durable. */
  Receipt commit(UploadRequest request, UploadReport report, Instant now);

  /** Takes everything back when there was no commit. */
  @Override
  void close();
}
