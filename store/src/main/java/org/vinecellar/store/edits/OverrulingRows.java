package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.OVERRULING;

import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Overruling;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.store.results.Packed;

/** Outcomes that were set by hand. */
public final class OverrulingRows {
  private OverrulingRows() {}

  /** Null when the result stands as it was reported. */
  public static @Nullable Overruling find(DSLContext dsl, long runId, ResultId result) {
    return dsl.selectFrom(OVERRULING)
        .where(is(runId, result))
        .fetchOne(
            row ->
                new Overruling(
                    Outcome.ofCode(row.get(OVERRULING.REPORTED)),
                    row.get(OVERRULING.REASON),
                    row.get(OVERRULING.MADE_AT).toInstant(),
                    row.get(OVERRULING.MADE_BY)));
  }

  static Condition is(long runId, ResultId result) {
    return OVERRULING.RUN_ID.eq(runId).and(OVERRULING.PLACE.eq(Packed.place(result)));
  }
}
