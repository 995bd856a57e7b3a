package org.vinecellar.service.edits;

import java.time.Instant;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.edits.Overruling;

/** An outcome that somebody set over the reported one. */
@Schema(name = "Overruling")
public record OverrulingBody(String reported, String reason, Instant at, String by) {
  /** The same as a body. */
  public static OverrulingBody of(Overruling o) {
    return new OverrulingBody(o.reported().word(), o.reason(), o.at(), o.by());
  }
}
