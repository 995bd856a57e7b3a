package org.vinecellar.core.results;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;
import java.util.SortedMap;
import org.apache.commons.codec.digest.MurmurHash3;
import org.jspecify.annotations.Nullable;

/**
 * Makes keys: MurmurHash3 (x64, 128 bits, seed 0) over the parent's key, the name and the
 * parameters, each UTF-8 and closed by a byte that UTF-8 never contains (FF after a name, FE after
 * parameters). A variant's are made from the key of its test, each word closed by FD and its value
 * by FC. Not thread-safe; one for each thread.
 *
 * <p>The hash is quick and spreads well; it is no seal. Who sets out to can name two tests that
 * have one key, and gains nothing that sending one name twice would not give. What finds keys by
 * their bits must not rely on their being spread by chance.
 */
final class KeyMaker {
  private static final ThreadLocal<KeyMaker> PER_THREAD = ThreadLocal.withInitial(KeyMaker::new);

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
    return hash(end);
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
    return hash(end);
  }

  private Key128 hash(int end) {
    long[] hash = MurmurHash3.hash128x64(buffer, 0, end, 0);
    return new Key128(hash[0], hash[1]);
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
      buffer = Arrays.copyOf(buffer, size * 2);
    }
  }

  private void putLong(int at, long value) {
    for (int i = 0; i < 8; i++) {
      buffer[at + i] = (byte) (value >>> (56 - 8 * i));
    }
  }
}
