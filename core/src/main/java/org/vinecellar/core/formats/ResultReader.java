package org.vinecellar.core.formats;

import java.io.IOException;
import java.io.InputStream;

/** Reads one kind of result file. Stateless and thread-safe. To add a kind, see docs/FORMATS.md. */
public interface ResultReader {
  /** The stable name of the format, e.g. {@code junit-xml}. */
  String format();

  /** Whether the file is of this kind, told from its beginning. */
  boolean recognises(FileHead head);

  /**
   * Reads the whole file and hands on what it finds. The handler may have got cases when this
   * fails; the caller drops them.
   *
   * @param fileName as it was sent, with or without directories; for formats that name no suite
   * @throws UnreadableFileException when the content is not what it should be, or passes a limit
   * @throws IOException when the stream itself fails
   */
  void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException;
}
