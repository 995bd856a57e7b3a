package org.vinecellar.core.triage.faults;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Words of faults that stand around the name of what has them. */
final class Gaps {
  /**
   * @param needs what stands in every such text, in small letters
   */
  record Gap(Way way, String needs, Pattern pattern) {
    static Gap of(Way way, String needs, String regex) {
      return new Gap(way, needs, Pattern.compile("(?i)" + regex));
    }

    /** Where such words end; less than nought when there are none. */
    int end(String text) {
      Matcher matcher = pattern.matcher(text);
      return matcher.find() ? matcher.end() : -1;
    }
  }

  static final List<Gap> ALL =
      List.of(
          Gap.of(
              Way.CERTIFICATE_EXPIRED,
              "expired",
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
              "disk ",
              "\\bdisk (?:of|on|at|for|under)? ?\\S{1,80} is (?:full|used up)\\b"),
          Gap.of(
              Way.CONNECT_TIMEOUT,
              "timed out",
              "\\bconnect(?:ion|ing)? to \\S{1,120} (?:has )?timed out\\b"),
          Gap.of(
              Way.RESET,
              "connection ",
              "\\bconnection (?:to|with) \\S{1,120} (?:was )?(?:reset|lost|broken off|dropped)\\b"));

  private Gaps() {}
}
