package org.vinecellar.service.triage;

import java.time.Instant;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.rules.Rule;

/**
 * A rule.
 *
 * @param id stays the same
 * @param version goes up with every change; say which one you saw when you change it
 * @param filter of results that it explains; empty for all
 * @param pattern that stands in what they say, as in RE2; empty for none
 * @param category by its name
 * @param comment Markdown; null for none
 * @param on whether it explains anything
 * @param starter whether it came with the portal
 * @param explained results that it has explained so far
 * @param last when the latest run began in which it did; null for never
 * @param trouble why it could not be asked the last time; null when it could
 * @param changedBy null for nobody yet
 */
@Schema(name = "Rule")
public record RuleBody(
    long id,
    int version,
    String name,
    String filter,
    String pattern,
    String category,
    @Schema(nullable = true) @Nullable String comment,
    boolean on,
    boolean starter,
    long explained,
    @Schema(nullable = true) @Nullable Instant last,
    @Schema(nullable = true) @Nullable String trouble,
    @Schema(nullable = true) @Nullable String changedBy,
    Instant changed) {
  static RuleBody of(Rule rule) {
    return new RuleBody(
        rule.id(),
        rule.version(),
        rule.said().name(),
        rule.said().filter(),
        rule.said().pattern(),
        rule.said().category(),
        rule.said().comment(),
        rule.said().on(),
        rule.starter(),
        rule.explained(),
        rule.lastAt(),
        rule.trouble(),
        rule.changedBy(),
        rule.changedAt());
  }
}
