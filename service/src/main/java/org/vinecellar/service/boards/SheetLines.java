package org.vinecellar.service.boards;

import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.inject.Inject;
import jakarta.inject.Singleton;
import jakarta.ws.rs.core.StreamingOutput;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.io.OutputStream;
import java.time.Duration;
import java.util.List;
import java.util.Queue;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Function;
import java.util.function.Supplier;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.Threads;
import org.vinecellar.service.guard.Places;
import org.vinecellar.service.problem.ProblemBody;
import org.vinecellar.service.problem.Problems;
import org.vinecellar.service.sheets.SheetBody;

/**
 * Makes sheets some at a time and writes each as a line of JSON as soon as it is there: one that
 * takes long keeps none of the others back. Thread-safe.
 */
@Singleton
final class SheetLines {
  /** JSON values, one a line, as many programs write and read them. */
  static final String TYPE = "application/x-ndjson";

  /** Of one answer at a time. */
  private static final int SIDE_BY_SIDE = 3;

  /** Of all answers. Most of the time is the database's, which lets in so many at once. */
  private static final int THREADS = 8;

  /** No answer takes longer. Of what it still owes by then it says so. */
  private static final Duration PATIENCE = Duration.ofMinutes(2);

  private static final Duration LATER = Duration.ofSeconds(10);

  /** Answers at a time; what is left of the threads that answer is for others. */
  private static final int ANSWERS = 12;

  private final Places places = new Places("boards", ANSWERS);

  private final ThreadPoolExecutor threads;
  private final ObjectMapper json;
  private final Function<Throwable, ProblemBody> told;
  private final Duration patience;

  @Inject
  SheetLines(ObjectMapper json, Problems problems) {
    this(json, problems::told, PATIENCE);
  }

  /** With what is told of a sheet that cannot be made. */
  SheetLines(ObjectMapper json, Function<Throwable, ProblemBody> told, Duration patience) {
    this.json = json;
    this.told = told;
    this.patience = patience;
    threads = Threads.some("vine-sheet", THREADS, new LinkedBlockingQueue<>());
  }

  /**
   * The sheet of a panel, or why there is none: one of both is null.
   *
   * @param version of the board, by which it is known which panels these are; null of panels that
   *     were asked for themselves
   * @param panel which of them, counted from 1
   */
  @Schema(name = "SheetLine")
  record LineBody(
      @Schema(nullable = true) @Nullable Integer version,
      int panel,
      @Schema(nullable = true) @Nullable SheetBody sheet,
      @Schema(nullable = true) @Nullable ProblemBody problem) {}

  /**
   * A sheet that is wanted.
   *
   * @param panel of which panel, counted from 1
   * @param sheet makes it, on any thread
   */
  record Asked(int panel, Supplier<Sheet> sheet) {}

  /**
   * All of these, in the order in which they are made.
   *
   * @throws TryLaterException {@code TOO_MANY_AT_ONCE}
   */
  StreamingOutput of(@Nullable Integer version, List<Asked> all) {
    Object place = places.take();
    return out -> {
      try {
        write(version, all, out);
      } finally {
        places.giveBack(place);
      }
    };
  }

  private void write(@Nullable Integer version, List<Asked> all, OutputStream out)
      throws IOException {
    Queue<Asked> left = new ConcurrentLinkedQueue<>(all);
    BlockingQueue<LineBody> made = new LinkedBlockingQueue<>();
    Set<Integer> owed = new TreeSet<>();
    all.forEach(one -> owed.add(one.panel));
    long end = System.nanoTime() + patience.toNanos();
    try {
      for (int i = 0; i < Math.min(SIDE_BY_SIDE, all.size()); i++) {
        threads.execute(() -> next(version, left, made));
      }
      while (!owed.isEmpty()) {
        LineBody line = made.poll(end - System.nanoTime(), TimeUnit.NANOSECONDS);
        if (line == null) {
          left.clear();
          int panel = owed.iterator().next();
          line = new LineBody(version, panel, null, told.apply(tooLate()));
        }
        if (owed.remove(line.panel)) {
          out.write(json.writeValueAsBytes(line));
          out.write('\n');
          if (made.isEmpty()) {
            out.flush();
          }
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new InterruptedIOException("the portal stops");
    } finally {
      // Who asked may be gone.
      left.clear();
    }
  }

  /** How many wait for a thread. */
  int waiting() {
    return threads.getQueue().size();
  }

  /** One, and then another one, behind those that other answers want by then. */
  private void next(@Nullable Integer version, Queue<Asked> left, BlockingQueue<LineBody> made) {
    Asked one = left.poll();
    if (one != null) {
      made.add(line(version, one));
      threads.execute(() -> next(version, left, made));
    }
  }

  private LineBody line(@Nullable Integer version, Asked one) {
    try {
      return new LineBody(version, one.panel, SheetBody.of(one.sheet.get()), null);
    } catch (RuntimeException | Error e) {
      return new LineBody(version, one.panel, null, told.apply(e));
    }
  }

  private TryLaterException tooLate() {
    return new TryLaterException(
        ProblemCode.TOO_MANY_AT_ONCE,
        "the portal has much to do and did not come to this panel within "
            + patience.toSeconds()
            + " seconds; ask again in a while",
        LATER);
  }
}
