package org.vinecellar.service.triage;

import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.decisions.FailureLine;
import org.vinecellar.core.triage.decisions.Ticket;

/**
 * One failing result with what is known of its cause.
 *
 * @param run its number in the stream
 * @param key that its sender gave the run; null for none
 * @param result its ID in the run
 * @param test the innermost suite's name, a hash and the test's name with its parameters
 * @param suite the names of the suites around the test, outermost first
 * @param group stays the same over runs; null while the run is being grouped
 * @param keyKind what the group is known by
 * @param category null when nobody explained it
 * @param origin how the decision came here: hand, rule or carried; suggested for a category that
 *     waits for a yes, if it is asked for: then there is no decision
 * @param decision its number
 * @param ticket the keys of the tickets that the group is linked to, with commas between; null when
 *     there is none
 */
@Schema(name = "FailureLine")
public record FailureBody(
    int run,
    @Schema(nullable = true) @Nullable String key,
    String result,
    String test,
    String suite,
    @Schema(nullable = true) @Nullable Long group,
    @Schema(nullable = true) @Nullable String keyKind,
    @Schema(nullable = true) @Nullable String category,
    @Schema(nullable = true) @Nullable String origin,
    @Schema(nullable = true) @Nullable Long decision,
    @Schema(nullable = true) @Nullable String comment,
    @Schema(nullable = true) @Nullable String by,
    @Schema(nullable = true) @Nullable String ticket) {
  private static @Nullable String tickets(FailureLine line) {
    String keys =
        line.tickets().stream()
            .map(Ticket::key)
            .filter(Objects::nonNull)
            .collect(Collectors.joining(","));
    return keys.isEmpty() ? null : keys;
  }

  /**
   * @param suggested categories of groups that wait for a yes
   */
  static FailureBody of(FailureLine line, Map<Long, String> suggested) {
    FailureLine.Said said = line.decision();
    String perhaps = line.group() == null ? null : suggested.get(line.group());
    return new FailureBody(
        line.run(),
        line.key(),
        line.result().toString(),
        line.test(),
        line.suite(),
        line.group(),
        line.kind() == null ? null : line.kind().word(),
        said == null ? perhaps : said.category(),
        said == null ? (perhaps == null ? null : "suggested") : said.origin().word(),
        said == null ? null : said.id(),
        said == null ? null : said.comment(),
        said == null ? null : said.by(),
        tickets(line));
  }
}
