package org.vinecellar.core.problem;

/** Whose fault a problem is, and so what the caller can do about it. */
public enum ProblemKind {
  /** The call is wrong; sending the same again will fail again. */
  CALLER,
  /** The caller is not known, or may not do this. */
  DENIED,
  /** What was asked for does not exist, or not for this caller. */
  MISSING,
  /** The call does not fit the present state. */
  CONFLICT,
  /** A limit was passed; the message names it. */
  LIMIT,
  /** The content that was sent cannot be read. */
  UNREADABLE,
  /** Something outside does not answer; trying again later may help. */
  UNAVAILABLE,
  /** Our own fault. */
  INTERNAL
}
