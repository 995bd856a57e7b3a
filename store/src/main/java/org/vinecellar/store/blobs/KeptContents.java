package org.vinecellar.store.blobs;

import java.io.IOException;
import java.io.InputStream;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.contents.Sha256;
import org.vinecellar.store.sql.Sql;

/**
 * Contents of attachments, bundles and raw files, each kept once for its project. They are kept
 * outside of the transaction of the upload, so that two uploads with the same content never wait
 * for each other's end; {@link UnusedContents} drops what no upload came to use.
 */
public final class KeptContents {
  private final BlobStore blobs;
  private final Connection connection;
  private final int projectId;
  private final Map<String, Long> known = new HashMap<>();

  /** Where a content comes from. */
  @FunctionalInterface
  public interface Source {
    InputStream open() throws IOException;
  }

  /**
   * A content that was kept.
   *
   * @param bytes as it was kept
   */
  public record Kept(long blob, long bytes) {}

  /** A content that was put and is not known by its hash yet. */
  private record Fresh(String hash, long blob, long bytes) {}

  /**
   * @param connection that commits by itself; of whoever else uses it in the same thread
   */
  public KeptContents(BlobStore blobs, Connection connection, int projectId) {
    this.blobs = blobs;
    this.connection = connection;
    this.projectId = projectId;
  }

  /** Looks for many at once; what is kept already is known from then on. */
  public void look(Collection<String> hashes) throws SQLException {
    List<String> stale = new ArrayList<>();
    try (PreparedStatement select =
        connection.prepareStatement(
            "select hash, blob_id, used_at > now() - interval '1 hour' from kept_content"
                + " where project_id = ? and hash = any(?)")) {
      select.setInt(1, projectId);
      select.setArray(2, connection.createArrayOf("varchar", hashes.toArray(String[]::new)));
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
    if (stale.isEmpty()) {
      return;
    }
    // Says that they are needed; the upkeep may just have dropped some.
    try (PreparedStatement update =
        connection.prepareStatement(
            "update kept_content set used_at = now() where project_id = ? and hash = any(?)"
                + " returning hash, blob_id")) {
      update.setInt(1, projectId);
      update.setArray(2, connection.createArrayOf("varchar", stale.toArray(String[]::new)));
      learn(update);
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
  public long keep(String hash, Source source) throws IOException, SQLException {
    if (!known.containsKey(hash)) {
      look(List.of(hash));
    }
    Long before = known.get(hash);
    if (before != null) {
      return before;
    }
    try (InputStream in = source.open()) {
      return keepAll(List.of(in::transferTo)).get(0).blob();
    }
  }

  /**
   * Keeps contents whose hashes are told by their ends only. They are put and known as one: whoever
   * dies in between leaves nothing behind.
   *
   * @return what is kept of each, in their order
   */
  public List<Kept> keepAll(List<BlobStore.Coming> contents) throws IOException, SQLException {
    connection.setAutoCommit(false);
    try {
      List<Kept> kept = claim(put(contents));
      connection.commit();
      return kept;
    } finally {
      // After a commit there is nothing to take back.
      connection.rollback();
      connection.setAutoCommit(true);
    }
  }

  private List<Fresh> put(List<BlobStore.Coming> contents) throws IOException, SQLException {
    List<Long> numbers = numbers(contents.size());
    List<Fresh> fresh = new ArrayList<>(contents.size());
    MessageDigest sha256 = Sha256.start();
    for (int i = 0; i < contents.size(); i++) {
      BlobStore.Coming content = contents.get(i);
      long bytes =
          blobs.put(
              connection,
              projectId,
              numbers.get(i),
              out -> content.writeTo(new DigestOutputStream(out, sha256)));
      fresh.add(new Fresh(Sha256.hex(sha256), numbers.get(i), bytes));
    }
    return fresh;
  }

  private List<Long> numbers(int n) throws SQLException {
    List<Long> numbers = new ArrayList<>(n);
    try (PreparedStatement next =
        connection.prepareStatement("select nextval('blob_id') from generate_series(1, ?)")) {
      next.setInt(1, n);
      try (ResultSet rows = next.executeQuery()) {
        while (rows.next()) {
          numbers.add(rows.getLong(1));
        }
      }
    }
    return numbers;
  }

  /**
   * Makes contents known by their hashes. One that another upload, or this one, has brought before
   * is dropped again.
   */
  private List<Kept> claim(List<Fresh> fresh) throws SQLException {
    Map<String, Fresh> once = new HashMap<>();
    fresh.forEach(one -> once.putIfAbsent(one.hash(), one));
    // In one order for everybody, so that no two of these wait for each other.
    List<Fresh> sorted = once.values().stream().sorted(Comparator.comparing(Fresh::hash)).toList();
    try (PreparedStatement insert =
        connection.prepareStatement(
            "insert into kept_content (project_id, hash, blob_id, size_bytes, used_at, in_doubt)"
                + " select ?, n.hash, n.blob, n.bytes, now(), true"
                + " from unnest(?::varchar[], ?::bigint[], ?::bigint[]) as n(hash, blob, bytes)"
                + " on conflict (project_id, hash) do update set used_at = now()"
                + " returning hash, blob_id")) {
      insert.setInt(1, projectId);
      insert.setArray(
          2, connection.createArrayOf("varchar", sorted.stream().map(Fresh::hash).toArray()));
      insert.setArray(
          3, connection.createArrayOf("bigint", sorted.stream().map(Fresh::blob).toArray()));
      insert.setArray(
          4, connection.createArrayOf("bigint", sorted.stream().map(Fresh::bytes).toArray()));
      learn(insert);
    }
    List<Kept> kept = new ArrayList<>(fresh.size());
    List<Long> spare = new ArrayList<>();
    for (Fresh one : fresh) {
      long blob = Objects.requireNonNull(known.get(one.hash()), one.hash());
      kept.add(new Kept(blob, one.bytes()));
      if (blob != one.blob()) {
        spare.add(one.blob());
      }
    }
    if (!spare.isEmpty()) {
      blobs.drop(Sql.on(connection), projectId, spare);
    }
    return kept;
  }

  private void learn(PreparedStatement statement) throws SQLException {
    try (ResultSet rows = statement.executeQuery()) {
      while (rows.next()) {
        known.put(rows.getString(1), rows.getLong(2));
      }
    }
  }
}
