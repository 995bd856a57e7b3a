package org.vinecellar.store.triage.rows;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import java.util.function.Consumer;

/**
 * Makes something of a few pieces at a time, each on a thread of its own, while their owner gets
 * the next one ready. What came of them is handed to the owner in the order of the pieces, on its
 * own thread.
 *
 * @param <T> what comes of a piece
 */
final class Alongside<T> {
  /** So many pieces are under way at once: as many as the smallest machine has processors. */
  static final int AT_ONCE = 2;

  private final String name;
  private final Consumer<T> then;
  private final Deque<FutureTask<T>> going = new ArrayDeque<>();

  /**
   * @param then takes what came of each piece
   */
  Alongside(String name, Consumer<T> then) {
    this.name = name;
    this.then = then;
  }

  /** Begins a piece; before it, waits for the oldest where too many are under way. */
  void next(Callable<T> piece) {
    while (going.size() >= AT_ONCE) {
      then.accept(done());
    }
    FutureTask<T> task = new FutureTask<>(piece);
    going.add(task);
    Thread thread = new Thread(task, name);
    thread.setDaemon(true);
    thread.start();
  }

  /**
   * Waits for all that is under way. What went wrong in the first that went wrong is thrown here,
   * as it was, and what came of those behind it is lost.
   */
  void end() {
    try {
      while (!going.isEmpty()) {
        then.accept(done());
      }
    } finally {
      close();
    }
  }

  /** Waits until nothing is under way any more, whatever came of it. */
  void close() {
    while (!going.isEmpty()) {
      try {
        T unused = done();
      } catch (RuntimeException | Error lost) {
        // Who closes has something worse to tell.
      }
    }
  }

  private T done() {
    try {
      return await(going.remove());
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
  private static <T> T await(FutureTask<T> task) throws ExecutionException {
    boolean interrupted = false;
    try {
      while (true) {
        try {
          return task.get();
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
