package org.vinecellar.core.moves;

import java.util.List;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;

/**
 * Puts right what was sent under a wrong name. A stream that is called otherwise now is still found
 * under its names of before, and uploads to them go to it.
 */
public interface MoveStore {
  /**
   * What became of a stream's runs.
   *
   * @param stream that they are in now
   * @param moved how many of them are there already
   * @param left how many follow in the background
   */
  record Moved(String stream, int moved, int left) {}

  /** Where a run is. */
  record Place(String stream, int number) {}

  /**
   * Gives a stream another name; what it is called now becomes a name of before.
   *
   * @throws CellarException {@code NOT_FOUND} when there is no such stream; {@code ALREADY_EXISTS}
   *     when another one has the name; {@code INVALID_VALUE} for what is no name
   */
  void rename(int projectId, String stream, String name, Hand hand);

  /**
   * Moves a run to another stream, where it gets a number and the place of its time. Both streams
   * tell anew what changed around it.
   *
   * @return where it is now
   * @throws CellarException {@code NOT_FOUND} when there is no such run or stream; {@code RUN_OPEN}
   *     while parts of it may come; {@code SAME_FILES} when that stream has the very same upload
   */
  Place moveRun(int projectId, long runId, String target, Hand hand);

  /**
   * Moves all runs of a stream to another, the oldest first, and takes the empty one away. Its name
   * becomes one of before of that other stream.
   *
   * @throws CellarException {@code NOT_FOUND} when there is no such stream; {@code INVALID_VALUE}
   *     when both are the same
   */
  Moved moveAll(int projectId, String stream, String target, Hand hand);

  /** What a stream was called before, in order. */
  List<String> namesBefore(int projectId, String stream);

  /**
   * Lets a name of before go: what is sent to it begins a stream of its own.
   *
   * @return false when it is none
   */
  boolean forget(int projectId, String name);
}
