package org.vinecellar.service.trust;

import java.time.Instant;
import java.util.Locale;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.history.Moment;

/**
 * Something that happened to a test, or that somebody said of it.
 *
 * @param by a person, a token or a rule; null for what nobody did
 * @param stream of the run in which it was seen or said; null for none
 * @param run its number; null for none
 * @param result of the test in that run; null for the run alone
 * @param runs how many runs one after another it went on for; null for what is over at once
 * @param lastRun the number of the last of them
 * @param goesOn whether no run has followed in which it was over
 * @param what it is taken for, the category, the field of the note, or the owner of a quarantine
 * @param before what it was, or was called; of a quarantine the stream, null for all
 * @param after what it became, or is called; of a quarantine the last day
 * @param why in their words
 */
@Schema(name = "Moment")
public record MomentBody(
    Instant at,
    @Schema(
            enumeration = {
              "came",
              "failed",
              "retried",
              "taken",
              "renamed",
              "kept apart",
              "explained",
              "taken back",
              "no longer",
              "noted",
              "overruled",
              "quarantined",
              "released"
            })
        String kind,
    @Schema(nullable = true) @Nullable String by,
    @Schema(nullable = true) @Nullable String stream,
    @Schema(nullable = true) @Nullable Integer run,
    @Schema(nullable = true) @Nullable String result,
    @Schema(nullable = true) @Nullable Integer runs,
    @Schema(nullable = true) @Nullable Integer lastRun,
    boolean goesOn,
    @Schema(nullable = true) @Nullable String what,
    @Schema(nullable = true) @Nullable String before,
    @Schema(nullable = true) @Nullable String after,
    @Schema(nullable = true) @Nullable String why) {
  static MomentBody of(Moment one) {
    Moment.Where where = one.where();
    Moment.Stretch stretch = one.stretch();
    return new MomentBody(
        one.at(),
        one.kind().name().toLowerCase(Locale.ROOT).replace('_', ' '),
        one.by(),
        where == null ? null : where.stream(),
        where == null ? null : (Integer) where.run(),
        where == null || where.result() == null ? null : where.result().toString(),
        stretch == null ? null : (Integer) stretch.runs(),
        stretch == null ? null : (Integer) stretch.last(),
        stretch != null && stretch.goesOn(),
        one.what(),
        one.before(),
        one.after(),
        one.why());
  }
}
