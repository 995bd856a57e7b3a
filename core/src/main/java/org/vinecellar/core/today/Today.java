package org.vinecellar.core.today;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.Outage;
import org.vinecellar.core.triage.desk.GroupLine;

/**
 * What needs a person.
 *
 * @param since when they last looked
 * @param fresh unexplained groups that were made since then
 * @param returned groups that fail again after they were mended
 * @param mine groups that were given to them
 * @param streams the latest run of each, by the name of the stream
 */
public record Today(Instant since, Some fresh, Some returned, Some mine, List<OfStream> streams) {
  /** Checks nulls and copies the lists. */
  public Today {
    Objects.requireNonNull(since);
    Objects.requireNonNull(fresh);
    Objects.requireNonNull(returned);
    Objects.requireNonNull(mine);
    streams = List.copyOf(streams);
  }

  /**
   * Some failure groups.
   *
   * @param first the widest and latest of them
   * @param total how many there are
   */
  public record Some(List<GroupLine> first, int total) {
    /** Copies the list. */
    public Some {
      first = List.copyOf(first);
    }
  }

  /**
   * The latest run of a stream.
   *
   * @param failures of it that are grouped
   * @param open those of them that nobody explained
   * @param fresh groups of it that were made since the person last looked
   * @param explained whether all of it is grouped
   * @param outage null for none
   */
  public record OfStream(
      String stream,
      int run,
      int failures,
      int open,
      int fresh,
      boolean explained,
      @Nullable Outage outage) {
    /** Checks nulls. */
    public OfStream {
      Objects.requireNonNull(stream);
    }
  }
}
