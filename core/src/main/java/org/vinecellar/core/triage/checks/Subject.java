package org.vinecellar.core.triage.checks;

import java.util.Objects;

/**
 * What a check names.
 *
 * @param kind of thing
 * @param name of it, without what differs from run to run
 * @param isTelling whether it names one thing over all tests; else it tells only within its test
 */
public record Subject(Kind kind, String name, boolean isTelling) {
  /** Kinds of things; the word stands in keys and sentences. */
  public enum Kind {
    /** What lies over another element. */
    COVER("cover"),
    /** An element of a page or screen. */
    LOCATOR("locator"),
    /** A picture or text that was kept. */
    SNAPSHOT("snapshot"),
    /** A file or directory. */
    FILE("file"),
    /** A component that was to be injected. */
    BEAN("bean"),
    /** A class, module, symbol or library. */
    MODULE("module"),
    /** A setting or variable. */
    SETTING("setting"),
    /** A field or property. */
    FIELD("field"),
    /** An expression that was checked. */
    EXPRESSION("expression"),
    /** What was waited for. */
    AWAITED("awaited"),
    /** A step of a scenario. */
    STEP("step"),
    /** Two places that race. */
    RACE("race"),
    /** An object of a database, queue or store. */
    OBJECT("object"),
    /** A method that was to be called, or not. */
    CALL("call"),
    /** What a check calls itself. */
    DESCRIPTION("check");

    private final String word;

    Kind(String word) {
      this.word = word;
    }

    /** The word. */
    public String word() {
      return word;
    }
  }

  /** Checks nulls. */
  public Subject {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(name);
  }
}
