package org.vinecellar.service.edits;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.NoteText;

/**
 * What is written about a run or a test.
 *
 * @param description Markdown; null for none
 * @param labels all that hold; of a run also those that uploads told
 */
@Schema(name = "Note")
public record NoteBody(
    @Schema(nullable = true) @Nullable String description,
    Map<String, String> labels,
    List<String> tags) {

  /** The same as a body. */
  public static NoteBody of(NoteText text) {
    return new NoteBody(text.description(), new TreeMap<>(text.labels()), text.tags());
  }

  NoteText text() {
    return new NoteText(
        description, labels == null ? Map.of() : labels, tags == null ? List.of() : tags);
  }
}
