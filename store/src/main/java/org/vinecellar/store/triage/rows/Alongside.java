package org.vinecellar.store.triage.rows;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;

/**
 * Does pieces of work on a thread of its own while its owner gets the next ones ready. They are
 * done in order, never two at a time, and what one has written the next one sees. So much may wait
 * that neither need wait for the other, and no more.
 */
final class Alongside {
  private final String name;
  private final long most;
  private final Deque<Piece> waiting = new ArrayDeque<>();
  private long held;
  private @Nullable ExecutorService thread;

  /** What went wrong; what comes after it is left undone. */
  private volatile boolean failed;

  private record Piece(Future<?> going, long weight) {}

  /**
   * @param most so much, in all, may be held by pieces that are not done; a single one may be more
   */
  Alongside(String name, long most) {
    this.name = name;
    this.most = most;
  }

  /** Does this one after those before it; waits while there is no room. */
  void next(Runnable piece, long weight) {
    Piece first = waiting.peek();
    while (first != null && (first.going.isDone() || held + weight > most)) {
      done();
      first = waiting.peek();
    }
    if (thread == null) {
      thread = Executors.newSingleThreadExecutor(this::made);
    }
    waiting.add(new Piece(thread.submit(() -> unlessFailed(piece)), weight));
    held += weight;
  }

  private Thread made(Runnable work) {
    Thread made = new Thread(work, name);
    made.setDaemon(true);
    return made;
  }

  private void unlessFailed(Runnable piece) {
    if (failed) {
      return;
    }
    failed = true;
    piece.run();
    failed = false;
  }

  /**
   * Waits for all pieces. What went wrong in one is thrown here or earlier, as it was, and once.
   */
  void end() {
    try {
      while (!waiting.isEmpty()) {
        done();
      }
    } finally {
      if (thread != null) {
        thread.shutdown();
        thread = null;
      }
    }
  }

  private void done() {
    Piece first = waiting.remove();
    held -= first.weight;
    try {
      await(first.going);
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException wrong) {
        throw wrong;
      }
      if (e.getCause() instanceof Error wrong) {
        throw wrong;
      }
      throw new IllegalStateException(e.getCause());
    }
  }

  /**
   * It uses what its owner holds, and must be done before that is let go, whoever is in a hurry.
   */
  private static void await(Future<?> task) throws ExecutionException {
    boolean interrupted = false;
    try {
      while (true) {
        try {
          Object unused = task.get();
          return;
        } catch (InterruptedException e) {
          interrupted = true;
        }
      }
    } finally {
      if (interrupted) {
        Thread.currentThread().interrupt();
      }
    }
  }
}
