package org.vinecellar.service.ingest;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystemException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jboss.resteasy.reactive.common.headers.HeaderUtil;
import org.jboss.resteasy.reactive.common.util.CaseInsensitiveMap;
import org.jboss.resteasy.reactive.server.core.multipart.MultipartParser;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.guard.Disk;

/**
 * A form as it comes (RFC 7578), in pieces: small fields go into memory, files onto the disk. Not
 * thread-safe; the pieces may come on different threads, one after the other.
 */
final class UploadFiles implements MultipartParser.PartHandler {
  private static final int MAX_PARTS = 20_100;
  private static final int MAX_FIELD_BYTES = 64 << 10;
  private static final int MAX_FIELDS_BYTES = 4 << 20;
  private static final int MAX_HEAD_BYTES = 64 << 10;

  /** So often it is looked whether the disk still has room. */
  private static final long LOOK_BYTES = 16L << 20;

  private final Path directory;
  private final Disk disk;
  private final MultipartParser.ParseState parser;
  private final Map<String, List<String>> fields = new LinkedHashMap<>();
  private final List<FormFile> files = new ArrayList<>();
  private int parts;
  private int fieldBytes;
  private long bytes;
  private long looked;
  private boolean told;

  private @Nullable String field;
  private @Nullable String fileName;
  private @Nullable FileChannel file;
  private byte[] value = {};
  private int silent;

  UploadFiles(Path directory, String boundary, Disk disk) {
    this.directory = directory;
    this.disk = disk;
    this.parser =
        MultipartParser.beginParse(this, boundary.getBytes(StandardCharsets.US_ASCII), "UTF-8");
  }

  /**
   * Takes the next piece.
   *
   * @throws CellarException when it is no form, or passes a limit
   */
  void take(byte[] piece) {
    told = false;
    try {
      parser.parse(ByteBuffer.wrap(piece));
    } catch (IOException e) {
      if (e.getClass() == IOException.class || e instanceof FileSystemException) {
        throw failed(e);
      }
      throw malformed();
    } catch (CellarException e) {
      throw e;
    } catch (RuntimeException e) {
      throw malformed();
    }
    // The head of a part is gathered by the parser, which sets it no end.
    silent = told ? 0 : silent + piece.length;
    if (silent > MAX_HEAD_BYTES) {
      throw malformed();
    }
  }

  private static CellarException malformed() {
    return new CellarException(
        ProblemCode.INVALID_VALUE,
        "the body is no well-formed form (multipart/form-data, RFC 7578); curl -F makes one");
  }

  static CellarException failed(IOException e) {
    boolean full = String.valueOf(e.getMessage()).contains("No space left");
    return full
        ? new CellarException(
            ProblemCode.DISK_FULL, "the disk for uploads is full; try again later", e)
        : new CellarException(ProblemCode.INTERNAL, "an upload could not be written", e);
  }

  @Override
  public void beginPart(CaseInsensitiveMap<String> headers) {
    told = true;
    if (++parts > MAX_PARTS) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "the form has more than " + MAX_PARTS + " fields; send parts of one run (--run KEY)");
    }
    String disposition = headers.getFirst("Content-Disposition");
    boolean known = disposition != null && disposition.startsWith("form-data");
    field = known ? HeaderUtil.extractQuotedValueFromHeader(disposition, "name") : null;
    fileName =
        known ? HeaderUtil.extractQuotedValueFromHeaderWithEncoding(disposition, "filename") : null;
    value = new byte[0];
    if (fileName != null && field != null) {
      try {
        file =
            FileChannel.open(
                directory.resolve(Integer.toString(files.size())),
                StandardOpenOption.CREATE_NEW,
                StandardOpenOption.WRITE);
      } catch (IOException e) {
        throw failed(e);
      }
    }
  }

  @Override
  public void data(ByteBuffer buffer) throws IOException {
    told |= buffer.hasRemaining();
    FileChannel to = file;
    if (to != null) {
      bytes += buffer.remaining();
      if (bytes - looked > LOOK_BYTES) {
        looked = bytes;
        disk.require(0);
      }
      while (buffer.hasRemaining()) {
        to.write(buffer);
      }
      return;
    }
    int more = buffer.remaining();
    fieldBytes += more;
    if (value.length + more > MAX_FIELD_BYTES || fieldBytes > MAX_FIELDS_BYTES) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          "a field of the form is longer than "
              + MAX_FIELD_BYTES
              + " bytes, or all of them are longer than "
              + MAX_FIELDS_BYTES);
    }
    byte[] longer = Arrays.copyOf(value, value.length + more);
    buffer.get(longer, value.length, more);
    value = longer;
  }

  @Override
  public void endPart() {
    told = true;
    String name = field;
    if (file != null && name != null && fileName != null) {
      close();
      files.add(new FormFile(name, fileName, directory.resolve(Integer.toString(files.size()))));
    } else if (name != null) {
      fields
          .computeIfAbsent(name, key -> new ArrayList<>())
          .add(new String(value, StandardCharsets.UTF_8));
    }
  }

  /** Closes the file that is being written, if any. */
  void close() {
    try (FileChannel open = file) {
      file = null;
    } catch (IOException e) {
      throw failed(e);
    }
  }

  /**
   * What has come.
   *
   * @throws CellarException when the form is not complete
   */
  UploadFields end() {
    if (!parser.isComplete()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the form ends too early; nothing of it was kept");
    }
    return new UploadFields(fields, files);
  }
}
