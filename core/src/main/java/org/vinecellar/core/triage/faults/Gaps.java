package org.vinecellar.core.triage.faults;

import java.util.List;
import java.util.function.BiConsumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Words of faults that stand around the name of what has them. */
final class Gaps {
  /**
   * @param needs what stands in every such text
   */
  private record Gap(Way way, String needs, Pattern pattern) {
    static Gap of(Way way, String needs, String regex) {
      return new Gap(way, needs, Pattern.compile("(?i)" + regex));
    }
  }

  private static final List<Gap> ALL =
      List.of(
          Gap.of(
              Way.CERTIFICATE_EXPIRED,
              "xpired",
              "\\bcertificates?\\b[^\\n]{1,120}?\\bexpired\\b|\\bexpired\\b[^\\n]{1,60}?\\bcertificates?\\b"),
          Gap.of(
              Way.REFUSED,
              "refused",
              "connection (?:to|with|at) \\S{1,200} (?:was )?refused|:\\d{2,5}\\)? refused"),
          Gap.of(
              Way.POOL,
              "pool",
              "\\bpool\\b[^\\n]{1,60}?\\b(?:exhausted|is (?:full|empty|drained))\\b|\\bexhausted\\b[^\\n]{1,40}?\\bpool\\b"),
          Gap.of(
              Way.NAME_UNKNOWN,
              "host",
              "\\bhost(?:name)? [\"'`]?[\\w-]*[.-][\\w.-]{1,80}[\"'`]? (?:is |was )?(?:unknown|not found|not known|could not be found|cannot be found)\\b"),
          Gap.of(
              Way.DISK_FULL,
              "isk ",
              "\\bdisk (?:of|on|at|for|under)? ?\\S{1,80} is (?:full|used up)\\b"),
          Gap.of(
              Way.CONNECT_TIMEOUT,
              "timed out",
              "\\bconnect(?:ion|ing)? to \\S{1,120} (?:has )?timed out\\b"),
          Gap.of(
              Way.RESET,
              "onnection ",
              "\\bconnection (?:to|with) \\S{1,120} (?:was )?(?:reset|lost|broken off|dropped)\\b"));

  private Gaps() {}

  /** Tells each way that is found, with where its words end. */
  static void search(String text, BiConsumer<Way, Integer> found) {
    for (Gap gap : ALL) {
      Matcher matcher = text.contains(gap.needs) ? gap.pattern.matcher(text) : null;
      if (matcher != null && matcher.find()) {
        found.accept(gap.way, matcher.end());
      }
    }
  }

  /** Whether a text may hold such words. */
  static boolean mayTell(String text) {
    for (Gap gap : ALL) {
      if (text.contains(gap.needs) && gap.pattern.matcher(text).find()) {
        return true;
      }
    }
    return false;
  }
}
