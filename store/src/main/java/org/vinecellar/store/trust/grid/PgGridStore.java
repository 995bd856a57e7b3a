package org.vinecellar.store.trust.grid;

import java.util.Optional;
import org.vinecellar.core.trust.grid.Grid;
import org.vinecellar.core.trust.grid.GridStore;
import org.vinecellar.store.filters.Looks;

/** Tests by runs, in PostgreSQL. Thread-safe. */
public final class PgGridStore implements GridStore {
  private final Looks looks;

  /**
   * @param looks whoever asks by a filter is one of them
   */
  public PgGridStore(Looks looks) {
    this.looks = looks;
  }

  @Override
  public Optional<Grid> grid(int projectId, Question question) {
    return looks.wide(question.filter(), dsl -> new GridQuery(dsl, projectId).grid(question));
  }
}
