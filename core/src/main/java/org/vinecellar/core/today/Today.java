package org.vinecellar.core.today;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.triage.decisions.Outage;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.ranks.RankStore;

/**
 * What needs a person.
 *
 * @param since when they last looked
 * @param fresh unexplained groups that were made since then
 * @param returned groups that fail again after they were mended
 * @param mine groups that were given to them
 * @param trust what became of tests that are not, or no longer, to be believed
 * @param streams the latest run of each, by the name of the stream
 */
public record Today(
    Instant since, Some fresh, Some returned, Some mine, Trust trust, List<OfStream> streams) {
  /** Checks nulls and copies the lists. */
  public Today {
    Objects.requireNonNull(since);
    Objects.requireNonNull(fresh);
    Objects.requireNonNull(returned);
    Objects.requireNonNull(mine);
    Objects.requireNonNull(trust);
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
   * What became of tests.
   *
   * @param flaky those that were taken for flaky since then and are in no quarantine, the latest
   *     first
   * @param slower those that were seen to have become slower since then, the dearest first
   * @param gone those that were seen to have vanished since then
   * @param quarantine those that need a word: over, ending, clean or gone
   */
  public record Trust(
      List<TrustStore.InStream> flaky,
      List<RankStore.Ranked> slower,
      List<RankStore.Ranked> gone,
      List<Quarantine> quarantine) {
    /** Copies the lists. */
    public Trust {
      slower = List.copyOf(slower);
      gone = List.copyOf(gone);
      flaky = List.copyOf(flaky);
      quarantine = List.copyOf(quarantine);
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
