package org.vinecellar.core.filters;

import java.time.Instant;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * A filter under a name. It stands in others as {@code saved eq "NAME"}, or {@code mine eq "NAME"}
 * when it is somebody's own.
 *
 * @param name not blank; no other of the same owner has it
 * @param of what it picks
 */
public record SavedFilter(String name, Thing of, String text) {
  /** So many characters at most. */
  public static final int LONGEST_NAME = 100;

  /** Checks nulls. */
  public SavedFilter {
    Objects.requireNonNull(name);
    Objects.requireNonNull(of);
    Objects.requireNonNull(text);
  }

  /**
   * A filter as it is kept.
   *
   * @param version goes up with every change
   * @param owner account whose own it is; null for one that all of the project have
   * @param changedBy who changed it last
   */
  public record Kept(
      long id,
      int version,
      @Nullable Long owner,
      SavedFilter filter,
      Instant changedAt,
      String changedBy) {}

  /** As it stands in another filter. */
  public String reference(boolean shared) {
    return (shared ? SavedNames.SHARED : SavedNames.MINE) + " eq " + JsonText.quoted(name);
  }

  /**
   * Checks what somebody wrote.
   *
   * @param names those that it may name
   * @param shared whether it is for all: then it names none that is somebody's own
   * @param before what it was called so far, where it is named so; null when it is new
   * @throws CellarException {@code INVALID_VALUE}
   */
  public void check(SavedNames names, boolean shared, @Nullable String before, Instant now) {
    if (name.isBlank() || name.length() > LONGEST_NAME || name.indexOf('\0') >= 0) {
      throw invalid("a saved filter needs a name of at most " + LONGEST_NAME + " characters");
    }
    if (text.isBlank()) {
      throw invalid("a saved filter picks something; this one is empty");
    }
    Criterion unused =
        Resolver.read(
            text, of, now, new With(shared ? names.sharedAlone() : names, shared, before));
  }

  private static CellarException invalid(String why) {
    return new CellarException(ProblemCode.INVALID_VALUE, why);
  }

  /** The names that there are when this one is kept. */
  private final class With implements SavedNames {
    private final SavedNames others;
    private final boolean shared;
    private final @Nullable String before;

    With(SavedNames others, boolean shared, @Nullable String before) {
      this.others = others;
      this.shared = shared;
      this.before = before;
    }

    private boolean isThis(String name) {
      return name.equals(SavedFilter.this.name) || name.equals(before);
    }

    @Override
    public @Nullable SavedFilter shared(String name) {
      return shared && isThis(name) ? SavedFilter.this : others.shared(name);
    }

    @Override
    public @Nullable SavedFilter mine(String name) {
      return !shared && isThis(name) ? SavedFilter.this : others.mine(name);
    }

    @Override
    public String whyNot(String word, String name) {
      return others.whyNot(word, name);
    }
  }
}
