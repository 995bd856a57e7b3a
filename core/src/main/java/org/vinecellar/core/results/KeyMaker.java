package org.vinecellar.core.results;

import java.nio.charset.StandardCharsets;
import java.security.DigestException;
import java.security.MessageDigest;
import java.util.Map;
import java.util.SortedMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.contents.Sha256;

/**
 * Makes keys: the first 128 bits of SHA-256 over the parent's key, the name and the parameters,
 * each UTF-8 and closed by a byte that UTF-8 never contains (FF after a name, FE after parameters).
 * A variant's are made from the key of its test, each word closed by FD and its value by FC. Not
 * thread-safe; one for each thread.
 */
final class KeyMaker {
  private static final ThreadLocal<KeyMaker> PER_THREAD = ThreadLocal.withInitial(KeyMaker::new);

  private final MessageDigest sha256 = Sha256.start();
  private final byte[] digest = new byte[32];
  private byte[] buffer = new byte[512];

  private KeyMaker() {}

  static KeyMaker get() {
    return PER_THREAD.get();
  }

  Key128 of(Key128 parent, String name, @Nullable String parameters) {
    putLong(0, parent.high());
    putLong(8, parent.low());
    int end = putText(16, name);
    buffer[end++] = (byte) 0xFF;
    if (parameters != null) {
      end = putText(end, parameters);
      buffer[end++] = (byte) 0xFE;
    }
    return digest(end);
  }

  Key128 of(Key128 test, SortedMap<String, String> variant) {
    putLong(0, test.high());
    putLong(8, test.low());
    int end = 16;
    for (Map.Entry<String, String> word : variant.entrySet()) {
      end = putText(end, word.getKey());
      buffer[end++] = (byte) 0xFD;
      end = putText(end, word.getValue());
      buffer[end++] = (byte) 0xFC;
    }
    return digest(end);
  }

  private Key128 digest(int end) {
    sha256.update(buffer, 0, end);
    try {
      int unused = sha256.digest(digest, 0, digest.length);
    } catch (DigestException e) {
      throw new IllegalStateException("SHA-256 has 32 bytes", e);
    }
    return new Key128(longAt(digest, 0), longAt(digest, 8));
  }

  /** Copies the text in as UTF-8 and leaves room for one byte after it. */
  private int putText(int at, String text) {
    byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
    ensure(at + utf8.length + 2);
    System.arraycopy(utf8, 0, buffer, at, utf8.length);
    return at + utf8.length;
  }

  private void ensure(int size) {
    if (buffer.length < size) {
      buffer = java.util.Arrays.copyOf(buffer, size * 2);
    }
  }

  private void putLong(int at, long value) {
    for (int i = 0; i < 8; i++) {
      buffer[at + i] = (byte) (value >>> (56 - 8 * i));
    }
  }

  private static long longAt(byte[] bytes, int at) {
    long value = 0;
    for (int i = 0; i < 8; i++) {
      value = value << 8 | (bytes[at + i] & 0xFF);
    }
    return value;
  }
}
