package org.vinecellar.store.blobs;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.attachments.MediaTypes;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Attachment;

/**
 * Contents of attachments, each kept once for its project. They are kept outside of the transaction
 * of the upload, so that two uploads with the same content never wait for each other's end; the
 * upkeep drops what no upload came to use.
 */
public final class Contents {
  private final Connection connection;
  private final int projectId;
  private final AttachmentFiles<SourceFile> files;
  private final long maxBytes;
  private final Map<String, Kept> known = new HashMap<>();

  /** A content that is in the database now. */
  public record Kept(@Nullable Long blobId, String mediaType, long bytes) {}

  @FunctionalInterface
  private interface Source {
    InputStream open() throws IOException;
  }

  /**
   * @param connection that commits by itself; of whoever else uses it in the same thread
   * @param maxBytes of one attachment; a larger one is named but not kept
   */
  public Contents(
      Connection connection, int projectId, AttachmentFiles<SourceFile> files, long maxBytes) {
    this.connection = connection;
    this.projectId = projectId;
    this.files = files;
    this.maxBytes = maxBytes;
  }

  /** Keeps the content of an attachment; without a blob when its file was not sent. */
  public Kept keep(Attachment attachment) throws SQLException {
    Attachment.Content content = attachment.content();
    String path = attachment.path();
    SourceFile file = path == null ? null : files.at(path);
    Source source =
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

  private Kept keep(Attachment attachment, Source source) throws IOException, SQLException {
    byte[] head = new byte[MediaTypes.HEAD];
    MessageDigest sha256 = sha256();
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
    if (size > maxBytes) {
      return new Kept(null, type, size);
    }
    String hash = HexFormat.of().formatHex(sha256.digest());
    Kept before = known.get(hash);
    if (before == null) {
      Long blob = find(hash);
      before = new Kept(blob == null ? add(hash, source, size) : blob, type, size);
      known.put(hash, before);
    }
    return new Kept(before.blobId(), type, size);
  }

  private @Nullable Long find(String hash) throws SQLException {
    boolean fresh;
    long blob;
    try (PreparedStatement select =
        connection.prepareStatement(
            "select blob_id, used_at > now() - interval '1 hour' from attachment_content"
                + " where project_id = ? and hash = ?")) {
      select.setInt(1, projectId);
      select.setString(2, hash);
      try (ResultSet row = select.executeQuery()) {
        if (!row.next()) {
          return null;
        }
        blob = row.getLong(1);
        fresh = row.getBoolean(2);
      }
    }
    return fresh || use(hash) ? blob : null;
  }

  /** Says that it is needed; false when the upkeep has just dropped it. */
  private boolean use(String hash) throws SQLException {
    try (PreparedStatement update =
        connection.prepareStatement(
            "update attachment_content set used_at = now() where project_id = ? and hash = ?")) {
      update.setInt(1, projectId);
      update.setString(2, hash);
      return update.executeUpdate() == 1;
    }
  }

  private long add(String hash, Source source, long size) throws IOException, SQLException {
    long blob = nextBlob();
    BlobRows rows = new BlobRows(connection.unwrap(PGConnection.class).getCopyAPI(), projectId);
    try (InputStream in = source.open();
        BlobRows.Pieces pieces = rows.blob(blob)) {
      in.transferTo(pieces);
      pieces.end();
    }
    rows.send();
    try (PreparedStatement insert =
        connection.prepareStatement(
            "insert into attachment_content (project_id, hash, blob_id, size_bytes, used_at)"
                + " values (?, ?, ?, ?, now()) on conflict do nothing")) {
      insert.setInt(1, projectId);
      insert.setString(2, hash);
      insert.setLong(3, blob);
      insert.setLong(4, size);
      if (insert.executeUpdate() == 1) {
        return blob;
      }
    }
    // Another upload was quicker with the same content.
    try (PreparedStatement delete =
        connection.prepareStatement(
            "delete from blob_chunk where project_id = ? and blob_id = ?")) {
      delete.setInt(1, projectId);
      delete.setLong(2, blob);
      delete.executeUpdate();
    }
    Long theirs = find(hash);
    if (theirs == null) {
      throw new SQLException("a content vanished right after it was kept");
    }
    return theirs;
  }

  private long nextBlob() throws SQLException {
    try (PreparedStatement next = connection.prepareStatement("select nextval('blob_id')");
        ResultSet row = next.executeQuery()) {
      row.next();
      return row.getLong(1);
    }
  }

  private static MessageDigest sha256() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }
}
