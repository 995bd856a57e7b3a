package org.vinecellar.core.access;

/** What somebody may do in a project. */
public enum Right {
  /** See runs, tests and settings. */
  READ("read"),
  /** Send results, and close runs. */
  SEND("send"),
  /** Write notes, overrule outcomes, change settings of streams. */
  EDIT("edit"),
  /** Delete, rename and move runs and streams. Never by a token of the project. */
  TIDY("tidy"),
  /** Members, tokens, settings of the project. Never by a token. */
  MANAGE("manage");

  private final String word;

  Right(String word) {
    this.word = word;
  }

  /** As it stands in the API. */
  public String word() {
    return word;
  }
}
