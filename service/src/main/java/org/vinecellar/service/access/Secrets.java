package org.vinecellar.service.access;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.SecureRandom;
import java.util.Base64;
import org.vinecellar.core.contents.Sha256;

/** Random secrets, and the only form in which they are kept. */
public final class Secrets {
  private static final SecureRandom RANDOM = new SecureRandom();

  private static final String OF_PERSON = "vine_~_";

  private Secrets() {}

  /** At least 8 random bits for each byte, in letters, digits, '-' and '_'. */
  public static String random(int bytes) {
    byte[] secret = new byte[bytes];
    RANDOM.nextBytes(secret);
    return Base64.getUrlEncoder().withoutPadding().encodeToString(secret);
  }

  /** A token of a project: its key stands in it, so that a client need not be told it. */
  public static String newToken(String projectKey) {
    return "vine_" + projectKey + "_" + random(24);
  }

  /** A token of a person: good in all of their projects. */
  public static String newTokenOfPerson() {
    return OF_PERSON + random(24);
  }

  /** Whether a token is one of a person; the keys of projects hold no tilde. */
  static boolean isOfPerson(String token) {
    return token.startsWith(OF_PERSON);
  }

  /** SHA-256 in hex: enough for secrets that are long and random, unlike passwords. */
  public static String hash(String secret) {
    MessageDigest sha256 = Sha256.start();
    sha256.update(secret.getBytes(StandardCharsets.UTF_8));
    return Sha256.hex(sha256);
  }
}
