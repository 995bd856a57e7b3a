package org.vinecellar.client.http;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** The portal said no, or said nothing. */
public final class PortalException extends CellarException {
  private static final long serialVersionUID = 1L;

  /** A file of an upload that cannot be taken. */
  public record Fault(String name, String error) {}

  private final int status;
  private final String slug;
  private final transient List<Fault> files;
  private final long waitSeconds;

  PortalException(
      int status, String slug, String message, List<Fault> files, @Nullable Throwable cause) {
    this(status, slug, message, files, 0, cause);
  }

  PortalException(
      int status,
      String slug,
      String message,
      List<Fault> files,
      long waitSeconds,
      @Nullable Throwable cause) {
    super(ProblemCode.UNAVAILABLE, message, cause);
    this.status = status;
    this.slug = slug;
    this.files = List.copyOf(files);
    this.waitSeconds = waitSeconds;
  }

  /**
   * How long the portal asks to wait before the next try (RFC 9110, 10.2.3); 0 when it does not.
   */
  public long waitSeconds() {
    return waitSeconds;
  }

  /** Whether the same may well be taken later: the portal is away, busy, or has a fault. */
  public boolean mayPass() {
    return status == 0 || status >= 500 || status == 429 || status == 408;
  }

  /** Whether another token may send the same. */
  public boolean isDenied() {
    return status == 401 || status == 403;
  }

  /** HTTP status; 0 when there was no answer. */
  public int status() {
    return status;
  }

  /** The stable code of the problem, e.g. {@code no-tests}; empty when it is not one of ours. */
  public String slug() {
    return slug;
  }

  /** The files at fault, each with what is wrong with it. */
  public List<Fault> files() {
    return files;
  }
}
