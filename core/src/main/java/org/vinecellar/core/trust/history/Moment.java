package org.vinecellar.core.trust.history;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.ResultId;

/**
 * Something that happened to a test, or that somebody said of it.
 *
 * @param by who did it: a person, a token or a rule; null for what nobody did
 * @param where the run in which it was seen or said; null for none
 * @param stretch how long it went on; null for what is over at once
 * @param what it is about, as {@link Kind} says; null when that says all
 * @param before what it was; null for nothing
 * @param after what it became; null for nothing
 * @param why in their words; null for none
 */
public record Moment(
    Instant at,
    Kind kind,
    @Nullable String by,
    @Nullable Where where,
    @Nullable Stretch stretch,
    @Nullable String what,
    @Nullable String before,
    @Nullable String after,
    @Nullable String why) {

  /** What can happen. */
  public enum Kind {
    /** The first run of the stream had it. */
    CAME,
    /** It failed, in some runs one after another. */
    FAILED,
    /** It passed only when it was tried again, in some runs one after another. */
    RETRIED,
    /** It is taken for something since: what that is, is what it is about. */
    TAKEN,
    /** It goes on under another name: before and after. */
    RENAMED,
    /** Somebody said that it is another test than one of that name: before. */
    KEPT_APART,
    /** A failure was explained: the category is what it is about. */
    EXPLAINED,
    /** That was taken back. */
    TAKEN_BACK,
    /** From then on it explains no more. */
    NO_LONGER,
    /** A field of its note, which is what it is about, was changed. */
    NOTED,
    /** Its outcome in a run was overruled: before and after. */
    OVERRULED,
    /**
     * It was put in quarantine, in the stream that is told before or in all: the owner is what it
     * is about, and after is the last day.
     */
    QUARANTINED,
    /** It was taken out. */
    RELEASED
  }

  /**
   * A run.
   *
   * @param stream its name
   * @param result of the test in it; null for the run alone
   */
  public record Where(String stream, int run, @Nullable ResultId result) {}

  /**
   * Runs one after another.
   *
   * @param runs how many
   * @param last the number of the last
   * @param goesOn whether none has followed
   */
  public record Stretch(int runs, int last, boolean goesOn) {}
}
