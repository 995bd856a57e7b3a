package org.vinecellar.store.sql;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import org.postgresql.copy.CopyIn;
import org.postgresql.copy.CopyManager;

/**
 * Rows in the binary form of PostgreSQL's COPY, gathered in memory and sent by {@link #send}. The
 * ugly fast part of ingest. Format: "COPY, Binary Format" of PostgreSQL's manual, version 15.
 */
public final class CopyBuffer {
  private static final byte[] SIGNATURE = {
    'P', 'G', 'C', 'O', 'P', 'Y', '\n', (byte) 0xFF, '\r', '\n', 0, 0, 0, 0, 0, 0, 0, 0, 0
  };
  private static final int KEPT = 1 << 20;

  private final String sql;
  private final int columns;
  private byte[] bytes = new byte[1 << 16];
  private int size;
  private int rows;

  /**
   * @param table and its columns as COPY takes them
   * @param columns how many
   */
  public CopyBuffer(String table, int columns) {
    this.sql = "COPY " + table + " FROM STDIN (FORMAT binary)";
    this.columns = columns;
    clear();
  }

  /** Drops what waits. */
  public void clear() {
    if (bytes.length > KEPT) {
      bytes = new byte[1 << 16];
    }
    System.arraycopy(SIGNATURE, 0, bytes, 0, SIGNATURE.length);
    size = SIGNATURE.length;
    rows = 0;
  }

  /** Bytes waiting. */
  public int size() {
    return size;
  }

  /** Sends what waits as one COPY and empties the buffer. */
  public void send(CopyManager copies) throws SQLException {
    if (rows == 0) {
      return;
    }
    ensure(2);
    short2(-1);
    CopyIn copy = copies.copyIn(sql);
    try {
      copy.writeToCopy(bytes, 0, size);
      copy.endCopy();
    } finally {
      if (copy.isActive()) {
        copy.cancelCopy();
      }
    }
    clear();
  }

  public void row() {
    ensure(2);
    short2(columns);
    rows++;
  }

  public void int4(int value) {
    ensure(8);
    int4raw(4);
    int4raw(value);
  }

  public void int8(long value) {
    ensure(12);
    int4raw(8);
    int8raw(value);
  }

  public void int4OrNone(@Nullable Integer value) {
    if (value == null) {
      none();
    } else {
      int4(value);
    }
  }

  public void int8OrNone(@Nullable Long value) {
    if (value == null) {
      none();
    } else {
      int8(value);
    }
  }

  public void text(@Nullable String value) {
    if (value == null) {
      none();
    } else {
      binary(value.getBytes(StandardCharsets.UTF_8));
    }
  }

  public void jsonb(@Nullable String value) {
    if (value == null) {
      none();
      return;
    }
    byte[] utf8 = value.getBytes(StandardCharsets.UTF_8);
    ensure(5 + utf8.length);
    int4raw(utf8.length + 1);
    bytes[size++] = 1;
    System.arraycopy(utf8, 0, bytes, size, utf8.length);
    size += utf8.length;
  }

  public void binary(byte[] value) {
    binary(value, value.length);
  }

  /** The first bytes of a buffer. */
  public void binary(byte[] value, int length) {
    ensure(4 + length);
    int4raw(length);
    System.arraycopy(value, 0, bytes, size, length);
    size += length;
  }

  public void none() {
    ensure(4);
    int4raw(-1);
  }

  private void short2(int value) {
    bytes[size++] = (byte) (value >> 8);
    bytes[size++] = (byte) value;
  }

  private void int4raw(int value) {
    bytes[size++] = (byte) (value >> 24);
    bytes[size++] = (byte) (value >> 16);
    bytes[size++] = (byte) (value >> 8);
    bytes[size++] = (byte) value;
  }

  private void int8raw(long value) {
    int4raw((int) (value >> 32));
    int4raw((int) value);
  }

  private void ensure(int more) {
    if (bytes.length - size < more) {
      bytes = Arrays.copyOf(bytes, Math.max(bytes.length * 2, size + more));
    }
  }
}
