package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Note;
import org.vinecellar.core.edits.Overruling;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.ResultId;

/**
 * All there is of one result.
 *
 * @param file source file of the test; null when not told
 * @param line null when not told
 * @param partName of the part that it came with
 * @param tags words that its file puts on the test
 * @param note what people wrote about the test
 * @param overruling how its outcome was set; null when it stands as reported
 * @param stoppedBy the failed set-up that kept it from running; null when it ran, or none is known
 * @param elsewhere the same test in other variants or parts of the run
 * @param before the same test in earlier runs of the stream, the newest first
 */
public record ResultDetail(
    ResultRow row,
    @Nullable Instant startedAt,
    @Nullable String file,
    @Nullable Integer line,
    String partName,
    Map<String, String> properties,
    List<String> tags,
    Note note,
    @Nullable Overruling overruling,
    @Nullable ResultRow stoppedBy,
    List<Try> tries,
    List<Elsewhere> elsewhere,
    List<Earlier> before) {
  /** Copies the collections. */
  public ResultDetail {
    properties = Map.copyOf(properties);
    tags = List.copyOf(tags);
    tries = List.copyOf(tries);
    elsewhere = List.copyOf(elsewhere);
    before = List.copyOf(before);
  }

  /** One try, with what it left behind; the places that its steps name are places in this list. */
  public record Try(Attempt attempt, List<KeptAttachment> attachments) {
    /** Copies the list. */
    public Try {
      attachments = List.copyOf(attachments);
    }
  }

  /**
   * The same test in the run once more.
   *
   * @param variant in which; empty for none
   * @param partName of the part that it came with
   */
  public record Elsewhere(
      ResultId result,
      Map<String, String> variant,
      String partName,
      org.vinecellar.core.results.Outcome outcome) {
    /** Copies the words, by their keys. */
    public Elsewhere {
      variant = Collections.unmodifiableMap(new TreeMap<>(variant));
    }
  }

  /** The outcome of the test in an earlier run, and whether it took a retry. */
  public record Earlier(
      int run, ResultId result, org.vinecellar.core.results.Outcome outcome, boolean retried) {}
}
