package org.vinecellar.core.trust.renames;

/** Why two names are taken for one test's. */
public enum Reason {
  /** A person said that cases with made-up names are one test. */
  FOLDED,
  /** Their author gave both the same ID. */
  SAME_ID,
  /** The name is the same, the suite another one. */
  SAME_NAME,
  /** Many tests of the suite went to the same other suite. */
  SUITE_MOVED,
  /** All words of the old name that say what is checked are in the new one. */
  SAME_WORDS,
  /** Most of them are. */
  LIKE_WORDS,
  /** It stands between the same tests. */
  SAME_PLACE,
  SAME_PARAMETERS,
  /** It failed for the same cause. */
  SAME_FAILURES,
  SAME_FILE,
  /** It takes as long. */
  SAME_DURATION
}
