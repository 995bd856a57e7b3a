package org.vinecellar.client.http;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.SequenceInputStream;
import java.util.zip.CRC32;
import java.util.zip.CheckedInputStream;
import java.util.zip.Deflater;
import java.util.zip.DeflaterInputStream;

/** Packs what is read from it (RFC 1952), so that a file need not be held in memory. */
final class GzipStream {
  private static final byte[] HEADER = {0x1F, (byte) 0x8B, 8, 0, 0, 0, 0, 0, 4, (byte) 0xFF};

  private GzipStream() {}

  static InputStream of(InputStream plain) {
    CRC32 crc = new CRC32();
    Deflater deflater = new Deflater(Deflater.BEST_SPEED, true);
    InputStream packed =
        new DeflaterInputStream(new CheckedInputStream(plain, crc), deflater, 1 << 15) {
          @Override
          public void close() throws IOException {
            super.close();
            plain.close();
          }
        };
    InputStream trailer = new Trailer(crc, deflater);
    return new SequenceInputStream(
        new SequenceInputStream(new ByteArrayInputStream(HEADER), packed), trailer);
  }

  /** Checksum and length, known only when all was read. */
  private static final class Trailer extends InputStream {
    private final CRC32 crc;
    private final Deflater deflater;
    private int at;
    private long length;

    Trailer(CRC32 crc, Deflater deflater) {
      this.crc = crc;
      this.deflater = deflater;
    }

    @Override
    public int read() {
      if (at == 0) {
        length = deflater.getBytesRead();
      }
      if (at == 8) {
        return -1;
      }
      long word = at < 4 ? crc.getValue() : length;
      return (int) (word >>> (8 * (at++ % 4))) & 0xFF;
    }

    @Override
    public void close() {
      deflater.end();
    }
  }
}
