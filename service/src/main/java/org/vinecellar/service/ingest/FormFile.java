package org.vinecellar.service.ingest;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import org.vinecellar.core.ingest.SourceFile;

/**
 * A file of a form, which lies on disk until its upload ends.
 *
 * @param field under which it came
 * @param sentName as its sender called it
 */
record FormFile(String field, String sentName, Path path) implements SourceFile {
  private static final int MAX_NAME = 1000;

  @Override
  public String name() {
    if (sentName.isBlank()) {
      return "(unnamed)";
    }
    String plain = sentName.replaceAll("\\p{Cntrl}", "\uFFFD");
    return plain.length() > MAX_NAME ? plain.substring(0, MAX_NAME) : plain;
  }

  @Override
  public InputStream open() throws IOException {
    return Files.newInputStream(path);
  }
}
