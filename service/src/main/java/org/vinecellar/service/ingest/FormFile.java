package org.vinecellar.service.ingest;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import org.jboss.resteasy.reactive.multipart.FileUpload;
import org.vinecellar.core.ingest.SourceFile;

/** A file of a form, which lies on disk until the request ends. */
record FormFile(FileUpload upload) implements SourceFile {
  private static final int MAX_NAME = 1000;

  @Override
  public String name() {
    String name = upload.fileName();
    if (name == null || name.isBlank()) {
      return "(unnamed)";
    }
    String plain = name.replaceAll("\\p{Cntrl}", "\uFFFD");
    return plain.length() > MAX_NAME ? plain.substring(0, MAX_NAME) : plain;
  }

  @Override
  public InputStream open() throws IOException {
    return Files.newInputStream(upload.uploadedFile());
  }
}
