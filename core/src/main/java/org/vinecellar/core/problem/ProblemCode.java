package org.vinecellar.core.problem;

import java.util.Locale;

/** The stable codes of every problem. The {@link #slug()} is part of the API and never changes. */
public enum ProblemCode {
  INVALID_VALUE(ProblemKind.CALLER, "A value is not valid"),
  WRONG_METHOD(ProblemKind.CALLER, "The method is not right"),
  WRONG_TYPE(ProblemKind.CALLER, "The content type is not right"),
  NOT_SIGNED_IN(ProblemKind.DENIED, "Not signed in"),
  NOT_ALLOWED(ProblemKind.DENIED, "Not allowed"),
  TOO_MANY_TRIES(ProblemKind.DENIED, "Too many tries"),
  NOT_FOUND(ProblemKind.MISSING, "Not found"),
  ALREADY_EXISTS(ProblemKind.CONFLICT, "Already exists"),
  EDITED_MEANWHILE(ProblemKind.CONFLICT, "Somebody else changed it meanwhile"),
  VERSION_NEEDED(ProblemKind.CALLER, "Say which version you change"),
  STILL_USED(ProblemKind.CONFLICT, "It is still used"),
  LAST_ONE(ProblemKind.CONFLICT, "The last one must stay"),
  NOT_EXPLAINED(ProblemKind.CONFLICT, "Nothing explains it"),
  RUN_CLOSED(ProblemKind.CONFLICT, "The run is closed"),
  RUN_OPEN(ProblemKind.CONFLICT, "The run is open"),
  SAME_FILES(ProblemKind.CONFLICT, "Another run has these files"),
  TOO_LARGE(ProblemKind.LIMIT, "Too large"),
  TOO_SLOW(ProblemKind.LIMIT, "Too slow"),
  TOO_MUCH_TO_SEARCH(ProblemKind.UNREADABLE, "Too much to search"),
  TOO_MANY_AT_ONCE(ProblemKind.UNAVAILABLE, "Too many at once"),
  DISK_FULL(ProblemKind.UNAVAILABLE, "The disk is full"),
  UNREADABLE_FILE(ProblemKind.UNREADABLE, "A result file cannot be read"),
  NO_TESTS(ProblemKind.UNREADABLE, "No test found"),
  TRACKER_TROUBLE(ProblemKind.UNAVAILABLE, "The tracker cannot be worked with"),
  UNAVAILABLE(ProblemKind.UNAVAILABLE, "Not available right now"),
  INTERNAL(ProblemKind.INTERNAL, "Something went wrong inside the portal");

  private final ProblemKind kind;
  private final String title;

  ProblemCode(ProblemKind kind, String title) {
    this.kind = kind;
    this.title = title;
  }

  /** Whose fault it is. */
  public ProblemKind kind() {
    return kind;
  }

  /** A short sentence for people, the same for every occurrence. */
  public String title() {
    return title;
  }

  /** The code as it stands in URLs and JSON, e.g. {@code unreadable-file}. */
  public String slug() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
