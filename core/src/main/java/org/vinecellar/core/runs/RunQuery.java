package org.vinecellar.core.runs;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Criterion;

/**
 * A page of runs, the newest first: of one stream by number, of all by when they started.
 *
 * @param stream null for all
 * @param filter of runs
 * @param after where the page before ended; empty for the first
 * @param limit at most that many
 */
public record RunQuery(
    @Nullable String stream, Criterion filter, Optional<Cursor> after, int limit) {
  /** Checks nulls. */
  public RunQuery {
    Objects.requireNonNull(filter);
    Objects.requireNonNull(after);
  }

  /** The newest of a stream. */
  public static RunQuery newest(String stream, int limit) {
    return new RunQuery(stream, Criterion.EVERYTHING, Optional.empty(), limit);
  }

  /** The last run of a page. */
  public record Cursor(int number, Instant started, long id) {
    /** Where a page ends with that run. */
    public static Cursor of(RunSummary last) {
      return new Cursor(last.number(), last.times().started(), last.id());
    }

    /** As one opaque word. */
    public String encode() {
      return number + "." + ChronoUnit.MICROS.between(Instant.EPOCH, started) + "." + id;
    }

    /** Reads what {@link #encode} wrote; empty for anything else. */
    public static Optional<Cursor> decode(String text) {
      if (!text.matches("[0-9]{1,9}\\.-?[0-9]{1,18}\\.[0-9]{1,18}")) {
        return Optional.empty();
      }
      String[] words = text.split("\\.", -1);
      return Optional.of(
          new Cursor(
              Integer.parseInt(words[0]),
              Instant.EPOCH.plus(Long.parseLong(words[1]), ChronoUnit.MICROS),
              Long.parseLong(words[2])));
    }
  }
}
