package org.vinecellar.core.attachments;

import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The place of an attachment in its run: written {@code part-ordinal-attempt-number}, e.g. {@code
 * 1-42-0-2}, with {@code p} for the ordinal of what belongs to the part itself.
 *
 * @param ordinal of its result; {@link #OF_PART} when it belongs to none
 */
public record AttachmentId(int part, int ordinal, int attempt, int number) {
  /** Stands for the part in place of a result. */
  public static final int OF_PART = -1;

  private static final Pattern FORM =
      Pattern.compile("([0-9]{1,7})-(p|[0-9]{1,8})-([0-9]{1,5})-([0-9]{1,5})");

  @Override
  public String toString() {
    return part + "-" + (ordinal == OF_PART ? "p" : ordinal) + "-" + attempt + "-" + number;
  }

  /** Reads what {@link #toString} wrote; empty for anything else. */
  public static Optional<AttachmentId> parse(String text) {
    Matcher matcher = FORM.matcher(text);
    if (!matcher.matches()) {
      return Optional.empty();
    }
    String ordinal = matcher.group(2);
    return Optional.of(
        new AttachmentId(
            Integer.parseInt(matcher.group(1)),
            ordinal.equals("p") ? OF_PART : Integer.parseInt(ordinal),
            Integer.parseInt(matcher.group(3)),
            Integer.parseInt(matcher.group(4))));
  }
}
