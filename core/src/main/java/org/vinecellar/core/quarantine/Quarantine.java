package org.vinecellar.core.quarantine;

import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;

/**
 * A test whose failures fail no gate for a while, in runs that begin from {@code since} on.
 *
 * @param stream where it holds, by its name; null for every stream
 * @param by who put it there
 * @param ended when somebody ended it; null when nobody did
 * @param endedBy null when nobody did
 */
public record Quarantine(
    long id,
    int version,
    KeptTest test,
    @Nullable String stream,
    Terms terms,
    Instant since,
    String by,
    @Nullable Instant ended,
    @Nullable String endedBy,
    Lately lately) {

  /**
   * Where it stands.
   *
   * @param today in UTC
   */
  public Standing standing(LocalDate today) {
    return ended == null ? Standing.of(terms.until(), today, lately) : Standing.ENDED;
  }
}
