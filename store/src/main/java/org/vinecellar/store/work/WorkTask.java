package org.vinecellar.store.work;

import java.time.Instant;
import org.jooq.DSLContext;

/** How work of one kind is done: all of it in one transaction, which also takes it off the list. */
@FunctionalInterface
public interface WorkTask {
  /**
   * @param subject what it is about; it may be gone by now
   */
  void perform(DSLContext dsl, int projectId, long subject, Instant now);
}
