package org.vinecellar.core.ingest;

import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.changes.ChangeCounts;
import org.vinecellar.core.results.Counts;

/**
 * The acknowledgement of an upload: from here on it is kept and visible.
 *
 * @param number of the run in its stream
 * @param duplicate whether the run had this very content before, so that nothing changed
 * @param open whether the run waits for more parts
 * @param part what this upload held
 * @param run what the run holds now
 * @param changes of the run against the one before it
 * @param files one by one; empty for a duplicate
 * @param notice what the sender should know of the run; null for nothing
 */
public record Receipt(
    String stream,
    int number,
    boolean duplicate,
    boolean open,
    Counts part,
    Counts run,
    ChangeCounts changes,
    List<FileReport> files,
    @Nullable String notice) {
  /** Copies the list. */
  public Receipt {
    files = List.copyOf(files);
  }
}
