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
    COVER("cover", "`%s` lies over what was to be reached"),
    /** An element of a page or screen. */
    LOCATOR("locator", "the element `%s` is not as it should be"),
    /** A part of a page that draws itself. */
    COMPONENT("component", "`%s` cannot be drawn"),
    /** A picture or text that was kept. */
    SNAPSHOT("snapshot", "what was kept as `%s` differs"),
    /** A file or directory. */
    FILE("file", "the file `%s` is missing"),
    /** A component that was to be injected. */
    BEAN("bean", "`%s` cannot be provided"),
    /** A class, module, symbol or library. */
    MODULE("module", "`%s` is not to be found"),
    /** A setting or variable. */
    SETTING("setting", "the setting `%s` is missing"),
    /** A field or property. */
    FIELD("field", "`%s` differs"),
    /** An expression that was checked. */
    EXPRESSION("expression", "`%s` does not hold"),
    /** What was waited for. */
    AWAITED("awaited", "`%s` was awaited in vain"),
    /** A step of a scenario. */
    STEP("step", "the step `%s` does not succeed"),
    /** Two places that race. */
    RACE("race", "`%s` race"),
    /** An object of a database, queue or store. */
    OBJECT("object", "the error names `%s`"),
    /** One case of an error that a program lists by name. */
    CASE("case", "the error is `%s`"),
    /** An error that should have come. */
    ERROR("missing error", "`%s` should have been thrown"),
    /** A method that was to be called, or not. */
    CALL("call", "`%s` was not called as expected"),
    /** What a check calls itself. */
    DESCRIPTION("check", "the check `%s` does not hold");

    private final String word;
    private final String sentence;

    Kind(String word, String sentence) {
      this.word = word;
      this.sentence = sentence;
    }

    /** The word. */
    public String word() {
      return word;
    }
  }

  /** What is wrong with it. */
  public String sentence() {
    return String.format(kind.sentence, name);
  }

  /** Checks nulls. */
  public Subject {
    Objects.requireNonNull(kind);
    Objects.requireNonNull(name);
  }
}
