package org.vinecellar.store.triage.rows;

import static org.vinecellar.store.generated.Tables.CODE_SETTINGS;

import java.util.Arrays;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.signature.Signature;

/** What a project says of its code, and by which version runs are to be grouped. */
public final class CodeRows {
  /** Settings change less often. */
  private static final int SETTINGS = 100_000;

  private CodeRows() {}

  /** Null when nothing was ever said. */
  public static @Nullable Record of(DSLContext dsl, int projectId) {
    return dsl.selectFrom(CODE_SETTINGS).where(CODE_SETTINGS.PROJECT_ID.eq(projectId)).fetchOne();
  }

  /** Of such a row. */
  public static CodeSettings settings(@Nullable Record row) {
    return row == null
        ? CodeSettings.NONE
        : new CodeSettings(
            lines(row.get(CODE_SETTINGS.OWN)), lines(row.get(CODE_SETTINGS.HELPERS)));
  }

  /** Of signatures and of such a row, in one number that goes up. */
  public static int version(@Nullable Record row) {
    return Signature.VERSION * SETTINGS + (row == null ? 0 : row.get(CODE_SETTINGS.VERSION));
  }

  /** The same of a project, in SQL, where {@code c} is its row or none. */
  public static String version() {
    return "(" + Signature.VERSION * SETTINGS + " + coalesce(c.version, 0))";
  }

  private static List<String> lines(String text) {
    return text.isEmpty() ? List.of() : Arrays.asList(text.split("\n"));
  }
}
