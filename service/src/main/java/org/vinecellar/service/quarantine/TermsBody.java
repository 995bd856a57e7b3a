package org.vinecellar.service.quarantine;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.quarantine.Terms;

/**
 * Tests, and on which terms they may fail.
 *
 * @param tests their numbers; or else a filter
 * @param filter of tests
 * @param stream where it shall hold; null for every stream
 * @param trial whether only to tell which tests it would be
 * @param version that was seen, of one that is changed
 * @param owner who sees to it
 * @param reason in one line
 * @param ticket its key or address
 * @param until the last day, in UTC
 */
@Schema(name = "QuarantineTerms")
public record TermsBody(
    @Schema(nullable = true) @Nullable List<@Nullable Long> tests,
    @Schema(nullable = true) @Nullable String filter,
    @Schema(nullable = true) @Nullable String stream,
    @Schema(nullable = true) @Nullable Boolean trial,
    @Schema(nullable = true) @Nullable Integer version,
    @Schema(nullable = true) @Nullable String owner,
    @Schema(nullable = true) @Nullable String reason,
    @Schema(nullable = true) @Nullable String ticket,
    @Schema(nullable = true) @Nullable String until) {

  Terms terms() {
    return new Terms(text(owner), text(reason), ticket, day(text(until).strip()));
  }

  private static String text(@Nullable String text) {
    return text == null ? "" : text;
  }

  private static LocalDate day(String text) {
    try {
      return LocalDate.parse(text);
    } catch (DateTimeException e) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          text.isEmpty()
              ? "say until when: until, the last day, as 2027-01-05"
              : "until is “" + text + "”; it takes a day, as 2027-01-05",
          e);
    }
  }
}
