package org.vinecellar.core.triage.rules;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.DecisionOrigin;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * What a rule would do in the latest runs. Nothing is changed by it.
 *
 * @param runs that were looked at, the latest first, of those asked for that have failures
 * @param failures in them
 * @param fits failures that fit the rule
 * @param would failures that nobody explained and that it would explain
 * @param said those that fit and are explained already, which the rule would leave as they are
 * @param groups failure groups of those that fit, those with most first; the first ones only
 * @param allGroups how many such groups there are
 * @param stopped why not all was looked at; null when all was
 */
public record RuleTrial(
    int runs,
    int failures,
    int fits,
    int would,
    List<Said> said,
    List<InGroup> groups,
    int allGroups,
    @Nullable String stopped) {
  /** Checks nulls and copies the lists. */
  public RuleTrial {
    said = List.copyOf(said);
    groups = List.copyOf(groups);
  }

  /**
   * What explains some of them.
   *
   * @param ownRule whether this very rule did
   */
  public record Said(String category, DecisionOrigin origin, boolean ownRule, int results) {
    /** Checks nulls. */
    public Said {
      Objects.requireNonNull(category);
      Objects.requireNonNull(origin);
    }
  }

  /**
   * A failure group that it touches.
   *
   * @param fits results of it that fit the rule
   * @param would results of it that the rule would explain
   * @param results of it in these runs
   * @param returned whether it came back after it was mended: rules leave it to a person
   * @param said the category of most of those that fit; null when nobody explained them
   */
  public record InGroup(
      long group,
      KeyKind kind,
      String sentence,
      String template,
      int fits,
      int would,
      int results,
      boolean returned,
      @Nullable String said) {
    /** Checks nulls. */
    public InGroup {
      Objects.requireNonNull(kind);
      Objects.requireNonNull(sentence);
      Objects.requireNonNull(template);
    }
  }
}
