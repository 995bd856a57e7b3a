package org.vinecellar.core.quarantine;

import java.time.LocalDate;
import java.util.Objects;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * On what somebody lets a test fail for a while.
 *
 * @param owner who sees to it: a person or a team
 * @param reason in one line
 * @param ticket its key or its address; null for none
 * @param until the last day on which it holds, in UTC
 */
public record Terms(String owner, String reason, @Nullable String ticket, LocalDate until) {
  /** What is put off for longer is not put off but given up. */
  public static final int MOST_DAYS = 180;

  private static final int LONGEST_OWNER = 100;
  private static final int LONGEST = 500;

  /** What has no place in one line. */
  private static final Pattern UNSEEN = Pattern.compile("[\\p{Cc}\\p{Cf}\\p{Zl}\\p{Zp}\\s]+");

  /** Checks nulls; texts are kept in one line, and a ticket of nothing is none. */
  public Terms {
    owner = line(Objects.requireNonNull(owner));
    reason = line(Objects.requireNonNull(reason));
    String told = ticket == null ? "" : line(ticket);
    ticket = told.isEmpty() ? null : told;
    Objects.requireNonNull(until);
  }

  private static String line(String text) {
    return UNSEEN.matcher(text).replaceAll(" ").strip();
  }

  /**
   * Itself, when it can be kept.
   *
   * @param today in UTC
   * @throws CellarException {@code INVALID_VALUE}, with what is wrong
   */
  public Terms checked(LocalDate today) {
    if (owner.isEmpty() || owner.length() > LONGEST_OWNER) {
      throw invalid("say who sees to it: owner, in up to " + LONGEST_OWNER + " characters");
    }
    if (reason.isEmpty() || reason.length() > LONGEST) {
      throw invalid("say why: reason, in up to " + LONGEST + " characters");
    }
    if (ticket != null && ticket.length() > LONGEST) {
      throw invalid("the ticket is longer than " + LONGEST + " characters");
    }
    if (until.isBefore(today)) {
      throw invalid("until is " + until + ", which is over; today is " + today + " (UTC)");
    }
    if (until.isAfter(today.plusDays(MOST_DAYS))) {
      throw invalid(
          "until is "
              + until
              + "; a quarantine can last "
              + MOST_DAYS
              + " days, and be prolonged then");
    }
    return this;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
