package org.vinecellar.core.ingest;

import java.io.IOException;
import java.io.InputStream;

/** One file of an upload, wherever it lies. */
public interface SourceFile {
  /** As the sender called it. */
  String name();

  /** Its content from the beginning, perhaps packed with gzip; the caller closes it. */
  InputStream open() throws IOException;
}
