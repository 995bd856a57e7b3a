package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.NOTE;

import com.fasterxml.jackson.core.type.TypeReference;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.LabelEdits;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.NoteText;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.store.sql.Json;

/** Notes in their columns; each may be missing, also as the empty side of a join. */
public final class NoteRows {
  private NoteRows() {}

  /** Null when nobody ever wrote one. */
  public static @Nullable Record find(DSLContext dsl, int projectId, Subject subject) {
    return dsl.selectFrom(NOTE).where(is(projectId, subject)).fetchOne();
  }

  static Condition is(int projectId, Subject subject) {
    return NOTE.PROJECT_ID
        .eq(projectId)
        .and(NOTE.SUBJECT.eq((short) subject.kind().code()))
        .and(NOTE.SUBJECT_ID.eq(subject.id()));
  }

  /**
   * The note of a row, or an empty one.
   *
   * @param reported labels that uploads told
   */
  public static Note note(@Nullable Record row, Map<String, String> reported) {
    if (row == null) {
      return new Note(new NoteText(null, reported, List.of()), 0);
    }
    return new Note(
        new NoteText(row.get(NOTE.DESCRIPTION), labels(row).over(reported), tags(row)),
        row.get(NOTE.VERSION));
  }

  /** Labels that were set by hand. */
  public static LabelEdits labels(Record row) {
    JSONB labels = row.get(NOTE.LABELS);
    return labels == null
        ? LabelEdits.NONE
        : new LabelEdits(
            Json.read(labels.data(), new TypeReference<Map<String, @Nullable String>>() {}));
  }

  /** Tags that were set by hand. */
  public static List<String> tags(Record row) {
    JSONB tags = row.get(NOTE.TAGS);
    return tags == null ? List.of() : Json.list(tags);
  }
}
