package org.vinecellar.core.results;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A file that a test left behind: inside the result file, or beside it.
 *
 * @param name for a person; a path says where it lay
 * @param mediaType as the file claims it; null when it claims none. Never to be trusted
 * @param content what was embedded; null when {@code path} names it
 * @param path where the result file says it is; null when it was embedded
 */
public record Attachment(
    String name, @Nullable String mediaType, @Nullable Content content, @Nullable String path) {
  /** Bytes that nobody changes. */
  @SuppressWarnings("ArrayRecordComponent") // never compared
  public record Content(byte[] bytes) {}

  /** Checks that there is one of both. */
  public Attachment {
    Objects.requireNonNull(name);
    if ((content == null) == (path == null)) {
      throw new IllegalArgumentException("an attachment has a content or a path");
    }
  }

  /** Embedded in the result file. */
  public static Attachment embedded(String name, @Nullable String mediaType, byte[] content) {
    return new Attachment(name, mediaType, new Content(content), null);
  }

  /** A file beside the result file. */
  public static Attachment at(String path, @Nullable String name, @Nullable String mediaType) {
    String last = path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
    return new Attachment(name == null ? last : name, mediaType, null, path);
  }
}
