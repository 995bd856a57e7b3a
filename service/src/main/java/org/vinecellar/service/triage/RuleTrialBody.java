package org.vinecellar.service.triage;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.rules.RuleTrial;

/**
 * What a rule would do in the latest runs.
 *
 * @param runs that were looked at
 * @param failures in them
 * @param fits failures that fit the rule
 * @param would failures that nobody explained and that it would explain
 * @param said what explains others that fit; the rule leaves them as they are
 * @param groups of those that fit, those with most first; the first ones only
 * @param allGroups how many such groups there are
 * @param stopped why not all was looked at; null when all was
 */
@Schema(name = "RuleTrial")
public record RuleTrialBody(
    int runs,
    int failures,
    int fits,
    int would,
    List<TrialSaidBody> said,
    List<TrialGroupBody> groups,
    int allGroups,
    @Schema(nullable = true) @Nullable String stopped) {

  /**
   * What explains some of them.
   *
   * @param origin how that came to the results: hand, rule or carried
   * @param ownRule whether this very rule did
   */
  @Schema(name = "RuleTrialSaid")
  public record TrialSaidBody(String category, String origin, boolean ownRule, int results) {}

  /**
   * A failure group that it touches.
   *
   * @param fits results of it that fit
   * @param would results of it that it would explain
   * @param results of it in these runs
   * @param returned whether it came back after it was mended: rules leave it to a person
   * @param said the category of most of those that fit; null when nobody explained them
   */
  @Schema(name = "RuleTrialGroup")
  public record TrialGroupBody(
      long group,
      TitleBody title,
      String keyKind,
      String sentence,
      String template,
      int fits,
      int would,
      int results,
      boolean returned,
      @Schema(nullable = true) @Nullable String said) {}

  static RuleTrialBody of(RuleTrial trial) {
    return new RuleTrialBody(
        trial.runs(),
        trial.failures(),
        trial.fits(),
        trial.would(),
        trial.said().stream()
            .map(
                one ->
                    new TrialSaidBody(
                        one.category(), one.origin().word(), one.ownRule(), one.results()))
            .toList(),
        trial.groups().stream()
            .map(
                one ->
                    new TrialGroupBody(
                        one.group(),
                        TitleBody.of(one.kind(), one.sentence(), one.template()),
                        one.kind().word(),
                        one.sentence(),
                        one.template(),
                        one.fits(),
                        one.would(),
                        one.results(),
                        one.returned(),
                        one.said()))
            .toList(),
        trial.allGroups(),
        trial.stopped());
  }
}
