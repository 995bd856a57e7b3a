package org.vinecellar.core.ingest;

import java.time.Instant;

/** Takes one upload into the store, all or nothing. Used by one thread. */
public interface UploadWriter extends ResultSink, AutoCloseable {
  /** Keeps a file as it came, packed. */
  void keepRaw(int fileNo, SourceFile file);

  /** Makes all of it visible at once and durable. */
  Receipt commit(UploadRequest request, UploadReport report, Instant now);

  /** Takes everything back when there was no commit. */
  @Override
  void close();
}
