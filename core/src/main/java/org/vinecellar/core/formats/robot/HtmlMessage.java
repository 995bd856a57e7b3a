package org.vinecellar.core.formats.robot;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import org.vinecellar.core.results.Attachment;

/**
 * A logged line that is HTML, with the pictures that it shows: files beside the result file, or
 * data in the line itself (RFC 2397).
 *
 * @param text without that data
 */
record HtmlMessage(String text, List<Attachment> pictures) {
  private static final int MOST = 20;

  private static final Pattern SOURCE =
      Pattern.compile("(?i)<(?:img|video|source)\\b[^>]*?\\bsrc\\s*=\\s*[\"']([^\"'<>]+)[\"']");
  private static final Pattern DATA =
      Pattern.compile("^data:(image/([a-z]{1,10}));base64,([A-Za-z0-9+/=\\s]+)$");
  private static final Pattern ELSEWHERE = Pattern.compile("^(?:[A-Za-z][A-Za-z0-9+.-]*:|//|#)");
  private static final int MAX_PATH = 1000;

  static HtmlMessage of(String html) {
    List<Attachment> pictures = new ArrayList<>();
    StringBuilder text = new StringBuilder();
    int from = 0;
    Matcher source = SOURCE.matcher(html);
    while (pictures.size() < MOST && source.find()) {
      String where = source.group(1).strip();
      Matcher data = DATA.matcher(where);
      if (data.find()) {
        String name = "picture-" + (pictures.size() + 1) + "." + data.group(2);
        try {
          byte[] bytes = Base64.getMimeDecoder().decode(data.group(3));
          pictures.add(Attachment.embedded(name, data.group(1), bytes));
          text.append(html, from, source.start(1)).append(name);
          from = source.end(1);
        } catch (IllegalArgumentException e) {
          // What is no picture stays in the text.
          continue;
        }
      } else if (where.length() <= MAX_PATH && !ELSEWHERE.matcher(where).find()) {
        pictures.add(Attachment.at(where, null, null));
      }
    }
    return new HtmlMessage(text.append(html, from, html.length()).toString(), pictures);
  }
}
