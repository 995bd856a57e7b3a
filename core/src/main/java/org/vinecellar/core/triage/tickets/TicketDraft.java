package org.vinecellar.core.triage.tickets;

import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Title;

/**
 * A new ticket for a failure group, to be looked over before it is made.
 *
 * @param text Markdown
 */
public record TicketDraft(String title, String text) {
  private static final int LONGEST_TITLE = 140;
  private static final int LONGEST_SAMPLE = 4_000;
  private static final int TESTS = 10;
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM uuuu HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  /** Checks nulls. */
  public TicketDraft {
    Objects.requireNonNull(title);
    Objects.requireNonNull(text);
  }

  /**
   * With all that is known of the group.
   *
   * @param sample what one of its results says; empty for nothing
   * @param link to the group's page; null when nobody knows where the portal is
   */
  public static TicketDraft of(GroupDetail group, String sample, @Nullable String link) {
    GroupLine line = group.line();
    Title title = Title.of(line.kind(), line.sentence(), line.template());
    StringBuilder text = new StringBuilder();
    text.append(
        String.format(
            Locale.ROOT,
            "%s of %s in %s of %s: %s.%n%n",
            plural(line.results(), "result"),
            plural(line.tests(), "test"),
            plural(line.runs(), "run"),
            plural(line.streams(), "stream"),
            line.sentence()));
    text.append("First seen in ").append(seen(line.first())).append('\n');
    text.append("Last seen in ").append(seen(line.last())).append("\n\n");
    for (GroupDetail.OfStream stream : group.streams()) {
      text.append("- `")
          .append(stream.stream())
          .append("`: since #")
          .append(commit(stream.since()));
      if (stream.before() != null) {
        text.append(", not in #").append(commit(stream.before()));
      }
      text.append(stream.gone() ? ", gone after #" : ", still in #")
          .append(commit(stream.last()))
          .append('\n');
    }
    sample(text, sample);
    text.append("\nTests:\n\n");
    group.tests().stream()
        .limit(TESTS)
        .forEach(
            test ->
                text.append("- `")
                    .append(test.name().replace("`", "'"))
                    .append("` (")
                    .append(test.results())
                    .append("×)\n"));
    if (line.tests() > TESTS) {
      text.append("- and ").append(plural(line.tests() - TESTS, "more test")).append('\n');
    }
    if (link != null) {
      text.append("\nAll that is known: ").append(link).append('\n');
    }
    // A hole of the template stands for many values.
    String name = title.fromError() ? title.text().replace("#", "…") : title.text();
    return new TicketDraft(
        name.length() > LONGEST_TITLE ? name.substring(0, LONGEST_TITLE) + "…" : name,
        text.toString());
  }

  /** In a fence that is longer than any in it. */
  private static void sample(StringBuilder text, String sample) {
    if (sample.isBlank()) {
      return;
    }
    String some =
        sample.length() > LONGEST_SAMPLE ? sample.substring(0, LONGEST_SAMPLE) + "\n…" : sample;
    String fence = "```";
    while (some.contains(fence)) {
      fence += "`";
    }
    text.append('\n').append(fence).append('\n').append(some.strip()).append('\n').append(fence);
    text.append('\n');
  }

  private static String seen(GroupLine.SeenIn seen) {
    return "`" + seen.stream() + "` #" + seen.number() + ", " + DAY.format(seen.at());
  }

  private static String commit(GroupDetail.Commit commit) {
    return commit.number() + (commit.commit() == null ? "" : " (" + commit.commit() + ")");
  }

  private static String plural(int n, String one) {
    return n + " " + one + (n == 1 ? "" : "s");
  }
}
