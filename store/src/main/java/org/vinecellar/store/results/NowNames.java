package org.vinecellar.store.results;

import static org.vinecellar.store.generated.Tables.EARLIER_NAME;
import static org.vinecellar.store.generated.Tables.RUN;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;

/**
 * Takes what a test did under its earlier names together with what it does under that of now.
 * Queries join {@code EARLIER_NAME} from the left, beside {@code RUN}.
 */
public final class NowNames {
  private NowNames() {}

  /** How it is joined to a run's test. */
  public static Condition joined(int projectId, Field<Long> test) {
    return EARLIER_NAME
        .PROJECT_ID
        .eq(projectId)
        .and(EARLIER_NAME.STREAM_ID.eq(RUN.STREAM_ID))
        .and(EARLIER_NAME.TEST_ID.eq(test));
  }

  /** The test as which that one goes on in the stream of the run. */
  public static Field<Long> of(Field<Long> test) {
    return DSL.coalesce(EARLIER_NAME.NOW_TEST_ID, test);
  }
}
