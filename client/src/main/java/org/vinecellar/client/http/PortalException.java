package org.vinecellar.client.http;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** The portal said no, or said nothing. */
public final class PortalException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final int status;
  private final String slug;
  private final transient List<String> details;

  PortalException(
      int status, String slug, String message, List<String> details, @Nullable Throwable cause) {
    super(ProblemCode.UNAVAILABLE, message, cause);
    this.status = status;
    this.slug = slug;
    this.details = List.copyOf(details);
  }

  /** HTTP status; 0 when there was no answer. */
  public int status() {
    return status;
  }

  /** The stable code of the problem, e.g. {@code no-tests}; empty when it is not one of ours. */
  public String slug() {
    return slug;
  }

  /** More lines to print: one for each file at fault. */
  public List<String> details() {
    return details;
  }
}
