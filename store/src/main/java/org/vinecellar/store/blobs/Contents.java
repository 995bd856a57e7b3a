package org.vinecellar.store.blobs;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.sql.SQLException;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.attachments.MediaTypes;
import org.vinecellar.core.contents.Sha256;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Attachment;

/** Contents of the attachments of an upload. */
public final class Contents {
  private final @Nullable KeptContents kept;
  private final AttachmentFiles<SourceFile> files;
  private final long maxBytes;

  /** A content that is in the database now. */
  public record Kept(@Nullable Long blobId, String mediaType, long bytes) {}

  /**
   * @param maxBytes of one attachment; a larger one is named but not kept
   */
  public Contents(@Nullable KeptContents kept, AttachmentFiles<SourceFile> files, long maxBytes) {
    this.kept = kept;
    this.files = files;
    this.maxBytes = maxBytes;
  }

  /** Keeps none: what is attached is named, and comes later. */
  public static Contents none() {
    return new Contents(null, new AttachmentFiles<>(), 0);
  }

  /** Keeps the content of an attachment; without a blob when its file was not sent. */
  public Kept keep(Attachment attachment) throws SQLException {
    Attachment.Content content = attachment.content();
    String path = attachment.path();
    SourceFile file = path == null ? null : files.at(path);
    KeptContents.Source source =
        content != null
            ? () -> new ByteArrayInputStream(content.bytes())
            : file == null ? null : file::open;
    if (source == null) {
      return new Kept(null, MediaTypes.UNKNOWN, 0);
    }
    try {
      return keep(attachment, source);
    } catch (IOException e) {
      throw new CellarException(
          ProblemCode.INTERNAL, "the attachment " + attachment.name() + " was not kept: " + e, e);
    }
  }

  private Kept keep(Attachment attachment, KeptContents.Source source)
      throws IOException, SQLException {
    byte[] head = new byte[MediaTypes.HEAD];
    MessageDigest sha256 = Sha256.start();
    long size = 0;
    int inHead = 0;
    try (InputStream in = source.open()) {
      byte[] buffer = new byte[1 << 16];
      for (int n = in.read(buffer); n >= 0; n = in.read(buffer)) {
        sha256.update(buffer, 0, n);
        int more = Math.min(n, head.length - inHead);
        System.arraycopy(buffer, 0, head, inHead, more);
        inHead += more;
        size += n;
      }
    }
    String path = attachment.path();
    String type =
        MediaTypes.of(
            attachment.mediaType(),
            path == null ? attachment.name() : path,
            Arrays.copyOf(head, inHead));
    if (kept == null || size > maxBytes) {
      return new Kept(null, type, size);
    }
    String hash = Sha256.hex(sha256);
    return new Kept(kept.keep(hash, source), type, size);
  }
}
