package org.vinecellar.core.formats.xml;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.IllegalCharsetNameException;
import java.nio.charset.StandardCharsets;
import java.nio.charset.UnsupportedCharsetException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.formats.UnreadableFileException;

/** Turns a file of any encoding that the JDK knows into UTF-8, told by its mark or declaration. */
final class Utf8Source {
  private static final Pattern DECLARED =
      Pattern.compile("^\\s*<\\?xml[^>]{0,200}?encoding\\s*=\\s*[\"']([A-Za-z0-9._:-]{1,40})");

  private Utf8Source() {}

  /** The content as UTF-8, without byte order mark and without its XML declaration. */
  static InputStream of(InputStream raw) throws IOException {
    BufferedInputStream in = new BufferedInputStream(decoded(raw), 1 << 16);
    in.mark(4096);
    byte[] head = in.readNBytes(4000);
    in.reset();
    String text = new String(head, StandardCharsets.ISO_8859_1);
    String body = text.stripLeading();
    int skip = text.length() - body.length();
    if (body.startsWith("<?xml ") && body.indexOf("?>") > 0) {
      skip += body.indexOf("?>") + 2;
    }
    in.skipNBytes(skip);
    return in;
  }

  private static InputStream decoded(InputStream raw) throws IOException {
    BufferedInputStream in = new BufferedInputStream(raw, 1 << 16);
    in.mark(512);
    byte[] head = in.readNBytes(400);
    in.reset();
    int b0 = head.length > 0 ? head[0] & 0xFF : 0;
    int b1 = head.length > 1 ? head[1] & 0xFF : 0;
    int b2 = head.length > 2 ? head[2] & 0xFF : 0;
    if (b0 == 0xEF && b1 == 0xBB && b2 == 0xBF) {
      in.skipNBytes(3);
      return in;
    }
    if (b0 == 0xFE && b1 == 0xFF) {
      in.skipNBytes(2);
      return new Transcoder(in, StandardCharsets.UTF_16BE);
    }
    if (b0 == 0xFF && b1 == 0xFE) {
      in.skipNBytes(2);
      return new Transcoder(in, StandardCharsets.UTF_16LE);
    }
    Matcher declared = DECLARED.matcher(new String(head, StandardCharsets.ISO_8859_1));
    if (!declared.find()) {
      return in;
    }
    Charset charset = charset(declared.group(1));
    boolean wide = charset.name().startsWith("UTF-16") || charset.name().startsWith("UTF-32");
    // A declaration that can be read byte by byte cannot be of a wide encoding: it lies.
    return charset.equals(StandardCharsets.UTF_8)
            || charset.equals(StandardCharsets.US_ASCII)
            || wide
        ? in
        : new Transcoder(in, charset);
  }

  private static Charset charset(String name) {
    try {
      return Charset.forName(name);
    } catch (IllegalCharsetNameException | UnsupportedCharsetException e) {
      throw new UnreadableFileException(
          "declares the encoding “" + name + "”, which is not known; write it as UTF-8", e);
    }
  }

  /** Decodes with replacement and encodes as UTF-8, through small buffers. */
  private static final class Transcoder extends InputStream {
    private final InputStream in;
    private final CharsetDecoder decoder;
    private final ByteBuffer bytes = ByteBuffer.allocate(8192).flip();
    private final CharBuffer chars = CharBuffer.allocate(8192);
    private byte[] ready = new byte[0];
    private int at;
    private boolean done;

    Transcoder(InputStream in, Charset charset) {
      this.in = in;
      this.decoder =
          charset
              .newDecoder()
              .onMalformedInput(CodingErrorAction.REPLACE)
              .onUnmappableCharacter(CodingErrorAction.REPLACE);
    }

    @Override
    public int read() throws IOException {
      byte[] one = new byte[1];
      return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] target, int offset, int length) throws IOException {
      while (at == ready.length) {
        if (done) {
          return -1;
        }
        fill();
      }
      int n = Math.min(length, ready.length - at);
      System.arraycopy(ready, at, target, offset, n);
      at += n;
      return n;
    }

    private void fill() throws IOException {
      bytes.compact();
      int n = in.read(bytes.array(), bytes.position(), bytes.remaining());
      if (n > 0) {
        bytes.position(bytes.position() + n);
      }
      bytes.flip();
      boolean end = n < 0;
      decoder.decode(bytes, chars, end);
      if (end) {
        decoder.flush(chars);
        done = true;
      }
      chars.flip();
      // A pair of surrogates must not be parted between two encodings.
      int keep =
          !end && chars.hasRemaining() && Character.isHighSurrogate(chars.get(chars.limit() - 1))
              ? 1
              : 0;
      chars.limit(chars.limit() - keep);
      ready = chars.toString().getBytes(StandardCharsets.UTF_8);
      at = 0;
      chars.position(chars.limit());
      chars.limit(chars.limit() + keep);
      chars.compact();
    }
  }
}
