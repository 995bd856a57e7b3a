package org.vinecellar.core.trust.renames;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.EditStore.Hand;

/** Tests with made-up names, which can be folded under one. Everything is of one project. */
public interface FoldingStore {
  /**
   * Those that were recognised, the latest first.
   *
   * @param stream by its name; null for all
   */
  List<Line> madeUp(int projectId, @Nullable String stream);

  /**
   * Says that they are one test, or that they are not. What is known of the stream is learned anew.
   *
   * @return how it is now
   * @throws org.vinecellar.core.problem.CellarException {@code NOT_FOUND} when there is no such
   */
  Line fold(int projectId, int id, boolean folded, Hand hand);

  /**
   * Cases of one test.
   *
   * @param suite from the outermost in
   * @param cases how many were seen
   * @param run the number of the run at which they were recognised; null when that is gone
   * @param test the number of the test as which they go on; null while they are not folded
   * @param saidBy who folded them, or parted them again; null when nobody did
   */
  record Line(
      int id,
      String stream,
      List<String> suite,
      MadeUp.Family family,
      int cases,
      @Nullable Integer run,
      @Nullable Long test,
      @Nullable Instant saidAt,
      @Nullable String saidBy) {}
}
