package org.vinecellar.service.edits;

import java.time.Instant;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Edit;

/**
 * One change that somebody made.
 *
 * @param field description, label KEY, tags or outcome
 * @param result whose outcome was set; null for another change
 */
@Schema(name = "Edit")
public record EditBody(
    Instant at,
    String by,
    String field,
    @Schema(nullable = true) @Nullable String result,
    @Schema(nullable = true) @Nullable String resultName,
    @Schema(nullable = true) @Nullable String before,
    @Schema(nullable = true) @Nullable String after,
    @Schema(nullable = true) @Nullable String reason) {
  static EditBody of(Edit e) {
    return new EditBody(
        e.at(),
        e.by(),
        e.field(),
        e.result() == null ? null : e.result().toString(),
        e.resultName(),
        e.before(),
        e.after(),
        e.reason());
  }
}
