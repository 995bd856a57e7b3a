package org.vinecellar.core.formats.xml;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.formats.FileHead;

/** The root element of a document, from the beginning of its file. */
public final class XmlRoot {
  private static final Pattern ROOT =
      Pattern.compile(
          "\\A(?:\\s+|<\\?.*?\\?>|<!--.*?-->)*+<(?:[\\w.-]+:)?([\\w.-]+)([^>]*)", Pattern.DOTALL);

  private XmlRoot() {}

  /** Its name without a prefix; empty when there is none. */
  public static String name(FileHead head) {
    Matcher root = ROOT.matcher(head.text());
    return head.isMarkup() && root.find() ? root.group(1) : "";
  }

  /** Its attributes as they are written, as far as the head goes; empty when there are none. */
  public static String attributes(FileHead head) {
    Matcher root = ROOT.matcher(head.text());
    return head.isMarkup() && root.find() ? root.group(2) : "";
  }

  /** A name as an element or attribute has it, without its prefix. */
  public static String local(String name) {
    return name.substring(name.indexOf(':') + 1);
  }
}
