package org.vinecellar.store.blobs;

import java.io.IOException;
import java.io.InputStream;
import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;

/**
 * Contents of attachments and bundles, each kept once for its project. They are kept outside of the
 * transaction of the upload, so that two uploads with the same content never wait for each other's
 * end; the upkeep drops what no upload came to use.
 */
public final class KeptContents {
  private final Connection connection;
  private final int projectId;
  private final Map<String, Long> known = new HashMap<>();

  /** Where a content comes from. */
  @FunctionalInterface
  public interface Source {
    InputStream open() throws IOException;
  }

  /**
   * @param connection that commits by itself; of whoever else uses it in the same thread
   */
  public KeptContents(Connection connection, int projectId) {
    this.connection = connection;
    this.projectId = projectId;
  }

  /** Looks for many at once; what is kept already is known from then on. */
  public void look(Collection<String> hashes) throws SQLException {
    Array all = connection.createArrayOf("varchar", hashes.toArray(String[]::new));
    List<String> stale = new ArrayList<>();
    try (PreparedStatement select =
        connection.prepareStatement(
            "select hash, blob_id, used_at > now() - interval '1 hour' from kept_content"
                + " where project_id = ? and hash = any(?)")) {
      select.setInt(1, projectId);
      select.setArray(2, all);
      try (ResultSet rows = select.executeQuery()) {
        while (rows.next()) {
          if (rows.getBoolean(3)) {
            known.put(rows.getString(1), rows.getLong(2));
          } else {
            stale.add(rows.getString(1));
          }
        }
      }
    }
    // Says that they are needed; the upkeep may just have dropped some.
    try (PreparedStatement update =
        connection.prepareStatement(
            "update kept_content set used_at = now() where project_id = ? and hash = any(?)"
                + " returning hash, blob_id")) {
      update.setInt(1, projectId);
      update.setArray(2, connection.createArrayOf("varchar", stale.toArray(String[]::new)));
      try (ResultSet rows = update.executeQuery()) {
        while (rows.next()) {
          known.put(rows.getString(1), rows.getLong(2));
        }
      }
    }
  }

  /** The blob of a content that was looked for, or kept; null when it is not there. */
  public @Nullable Long known(String hash) {
    return known.get(hash);
  }

  /**
   * The blob of a content, which is kept when it is not yet.
   *
   * @param hash SHA-256, lower-case hex
   * @param source opened once at most
   */
  public long keep(String hash, Source source, long size) throws IOException, SQLException {
    Long before = known.get(hash);
    if (before == null) {
      before = find(hash);
    }
    long blob = before == null ? add(hash, source, size) : before;
    known.put(hash, blob);
    return blob;
  }

  private @Nullable Long find(String hash) throws SQLException {
    boolean fresh;
    long blob;
    try (PreparedStatement select =
        connection.prepareStatement(
            "select blob_id, used_at > now() - interval '1 hour' from kept_content"
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
            "update kept_content set used_at = now() where project_id = ? and hash = ?")) {
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
            "insert into kept_content (project_id, hash, blob_id, size_bytes, used_at)"
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
}
