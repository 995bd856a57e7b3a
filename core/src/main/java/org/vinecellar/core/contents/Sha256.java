package org.vinecellar.core.contents;

import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** The hash that contents, keys and secrets are known by (FIPS 180-4). */
public final class Sha256 {
  private Sha256() {}

  /** A new one, of nothing yet. */
  public static MessageDigest start() {
    try {
      return MessageDigest.getInstance("SHA-256");
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java platform has SHA-256", e);
    }
  }

  /** Ends a digest, in lower-case hex; it begins anew. */
  public static String hex(MessageDigest digest) {
    return HexFormat.of().formatHex(digest.digest());
  }
}
