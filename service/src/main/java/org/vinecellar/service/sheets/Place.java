package org.vinecellar.service.sheets;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.boards.Sheet;

/** Where the console shows the list that a number leads to. */
public final class Place {
  private static final Pattern ONE = Pattern.compile("(?:id|number) eq (\\d+)");

  private Place() {}

  /**
   * Its address.
   *
   * @param portal scheme, host and port, without a slash at the end
   */
  public static String of(String portal, String project, Sheet.Link link) {
    String in = portal + "/" + encoded(project) + "/";
    Matcher one = ONE.matcher(link.filter());
    String filter = "filter=" + encoded(link.filter());
    return switch (link.of()) {
      case TEST -> in + (one.matches() ? "tests?test=" + one.group(1) : "found?of=test&" + filter);
      case GROUP ->
          in + "triage?show=all&days=0&" + (one.matches() ? "group=" + one.group(1) : filter);
      default -> in + "found?of=" + link.of().word() + "&" + filter;
    };
  }

  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
  }
}
