package org.vinecellar.store.results;

import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;

/**
 * How the columns of a result are packed into four numbers of four bytes. What is written here is
 * unpacked by the view {@code result} of the migrations; the bits are told there.
 */
public final class Packed {
  /** Results of a part at most; the last ordinal stands for the part itself. */
  public static final int MAX_RESULTS = (1 << 20) - 1;

  /** Parts of a run at most. */
  public static final int MAX_PART = 4095;

  /** Versions of a test's facts that a result can name. */
  static final int MAX_FACTS = (1 << 11) - 1;

  /** Set in the state of a result that a later part has tried again. */
  public static final int SUPERSEDED = 1 << 8;

  /** Set in the state of a result of which an attempt failed, whatever came of it. */
  public static final int STUMBLED = 1 << 18;

  /** The bits of a state that further attempts of the same part leave as they are. */
  public static final int KEPT_BY_TRIES = 3 << 6 | STUMBLED | MAX_FACTS << 20;

  /** Attempts of a result that are counted; more count as these. */
  public static final int MAX_ATTEMPTS = 511;

  /** The bits of a state that another standing outcome changes: that, and how many attempts. */
  public static final int OUTCOME_AND_ATTEMPTS = 7 | MAX_ATTEMPTS << 9;

  private static final int PART = 1 << 20;
  private static final int FIRST_PART = 2048;
  private static final int OF_PART = PART - 1;
  private static final int RETRIED = 1 << 19;
  private static final int FAR = 1 << 30;

  private Packed() {}

  /** Set in the state of what is no result of a test that counts: a set-up, or one tried again. */
  public static final int NO_RESULT = 3 << 6 | SUPERSEDED;

  /** The place of a result; parts and, inside them, ordinals follow each other. */
  public static int place(int part, int ordinal) {
    if (part < 0 || part > MAX_PART) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a run holds at most " + MAX_PART + " parts; send the others to a run of their own");
    }
    if (ordinal < 0 || ordinal >= MAX_RESULTS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "a part holds at most " + MAX_RESULTS + " results; send them as several parts");
    }
    return (part - FIRST_PART) * PART + ordinal;
  }

  /** Whether a result can stand there at all. */
  public static boolean isPlace(ResultId id) {
    return id.part() >= 0
        && id.part() <= MAX_PART
        && id.ordinal() >= 0
        && id.ordinal() < MAX_RESULTS;
  }

  /** The place of a result. */
  public static int place(ResultId id) {
    return place(id.part(), id.ordinal());
  }

  /** Where what belongs to the part as a whole stands. */
  public static int placeOfPart(int part) {
    return first(part) + OF_PART;
  }

  /** The first place of a part; all of its others are below that of the next. */
  public static int first(int part) {
    return place(part, 0);
  }

  /** The last place of a part, its own. */
  public static int last(int part) {
    return placeOfPart(part);
  }

  /** The result that stands there. */
  public static ResultId id(int place) {
    return new ResultId(part(place), place & OF_PART);
  }

  /** The part that a place is in. */
  public static int part(int place) {
    return (place >> 20) + FIRST_PART;
  }

  /** Whether a place is that of its part as a whole. */
  public static boolean isOfPart(int place) {
    return (place & OF_PART) == OF_PART;
  }

  /**
   * A result that stands, told by its part alone.
   *
   * @param stumbled whether one of its attempts failed
   * @param facts the version of its test's facts; 0 for none
   */
  public static int state(
      Outcome outcome, ResultKind kind, int attempts, boolean stumbled, int facts) {
    return outcome.code()
        | outcome.code() << 3
        | kind.code() << 6
        | Math.min(attempts, MAX_ATTEMPTS) << 9
        | (stumbled ? STUMBLED : 0)
        | (attempts > 1 ? RETRIED : 0)
        | facts << 20;
  }

  /** Whether the test was run: it passed or failed. */
  public static boolean hasRun(int state) {
    return (state & 7) <= Outcome.ERRORED.code();
  }

  /** Whether it failed, in whatever way. */
  public static boolean hasFailed(int state) {
    return hasRun(state) && (state & 7) != Outcome.PASSED.code();
  }

  /** Whether it passed, and no attempt failed. */
  public static boolean hasPassedAtOnce(int state) {
    return (state & (7 | STUMBLED | MAX_ATTEMPTS << 9)) == (Outcome.PASSED.code() | 1 << 9);
  }

  /** A duration in milliseconds. */
  public static double millis(int column) {
    return column < 0 ? -(double) column : column / 1e3;
  }

  /** Microseconds, or, negative, milliseconds where the former would be too many. */
  static int duration(long micros) {
    return micros <= Integer.MAX_VALUE
        ? (int) micros
        : (int) -Math.min(micros / 1000, Integer.MAX_VALUE);
  }

  /** A duration as it will come out of the column again. */
  public static long kept(long micros) {
    int column = duration(Math.max(0, micros));
    return column < 0 ? column * -1000L : column;
  }

  /**
   * Milliseconds after a base; far from it, seconds.
   *
   * @return null when even those are too many
   */
  static @Nullable Integer started(Instant base, Instant started) {
    long millis = Duration.between(base, started).toMillis();
    if (Math.abs(millis) < FAR) {
      return (int) millis;
    }
    long seconds = millis / 1000;
    return Math.abs(seconds) < FAR ? (int) (seconds < 0 ? seconds - FAR : seconds + FAR) : null;
  }

  /** The time that {@link #started} has packed. */
  public static @Nullable Instant started(Instant base, @Nullable Integer column) {
    if (column == null) {
      return null;
    }
    if (Math.abs((long) column) < FAR) {
      return base.plusMillis(column);
    }
    return base.plusSeconds(column < 0 ? column + FAR : column - FAR);
  }

  /** A duration for {@link TestResult}. */
  public static long micros(@Nullable Long column) {
    return column == null ? TestResult.NO_DURATION : column;
  }
}
