package org.vinecellar.client.http;

import java.io.BufferedInputStream;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.LongConsumer;
import java.util.function.Supplier;

/** A multipart form (RFC 7578) of fields and of files; result files are packed on their way. */
public final class UploadForm {
  private final String boundary = "vine-" + UUID.randomUUID();
  private final List<Map.Entry<String, String>> fields;
  private final List<FilePart> files;
  private final LongConsumer progress;

  /**
   * A file to send.
   *
   * @param field of the form: {@code file} for result files, {@code attachment} for others, which
   *     are sent as they are
   * @param name to send it under
   */
  public record FilePart(String field, Path path, String name) {}

  /**
   * @param progress is told how many bytes of the files were read so far
   */
  public UploadForm(
      List<Map.Entry<String, String>> fields, List<FilePart> files, LongConsumer progress) {
    this.fields = List.copyOf(fields);
    this.files = List.copyOf(files);
    this.progress = progress;
  }

  String contentType() {
    return "multipart/form-data; boundary=" + boundary;
  }

  /** The whole body, read from the disk as it is sent. */
  InputStream body() {
    List<Supplier<InputStream>> pieces = new ArrayList<>();
    for (Map.Entry<String, String> field : fields) {
      pieces.add(() -> text(head(field.getKey(), null) + field.getValue() + "\r\n"));
    }
    for (FilePart file : files) {
      pieces.add(() -> text(head(file.field(), file.name())));
      pieces.add(() -> file.field().equals("file") ? packed(file.path()) : plain(file.path()));
      pieces.add(() -> text("\r\n"));
    }
    pieces.add(() -> text("--" + boundary + "--\r\n"));
    return new SequenceInputStream(new OneByOne(pieces.iterator()));
  }

  /** Opens each piece only when the one before it has ended. */
  private record OneByOne(Iterator<Supplier<InputStream>> pieces)
      implements Enumeration<InputStream> {
    @Override
    public boolean hasMoreElements() {
      return pieces.hasNext();
    }

    @Override
    public InputStream nextElement() {
      return pieces.next().get();
    }
  }

  private String head(String name, @org.jspecify.annotations.Nullable String fileName) {
    String disposition = "Content-Disposition: form-data; name=\"" + name + "\"";
    if (fileName != null) {
      String safe = fileName.replace("\"", "%22").replaceAll("[\\r\\n]", "_");
      disposition += "; filename=\"" + safe + "\"\r\nContent-Type: application/octet-stream";
    } else {
      disposition += "\r\nContent-Type: text/plain; charset=utf-8";
    }
    return "--" + boundary + "\r\n" + disposition + "\r\n\r\n";
  }

  private static InputStream text(String text) {
    return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
  }

  private InputStream packed(Path path) {
    try {
      InputStream in = new BufferedInputStream(Files.newInputStream(path), 1 << 16);
      in.mark(2);
      boolean already = in.read() == 0x1F && in.read() == 0x8B;
      in.reset();
      InputStream counted = new Counted(in);
      return already ? counted : GzipStream.of(counted);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private InputStream plain(Path path) {
    try {
      return new Counted(new BufferedInputStream(Files.newInputStream(path), 1 << 16));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private long sent;

  /** Tells the progress. */
  private final class Counted extends java.io.FilterInputStream {
    Counted(InputStream in) {
      super(in);
    }

    @Override
    public int read() throws IOException {
      int b = super.read();
      if (b >= 0) {
        progress.accept(++sent);
      }
      return b;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
      int n = super.read(target, offset, length);
      if (n > 0) {
        sent += n;
        progress.accept(sent);
      }
      return n;
    }
  }
}
