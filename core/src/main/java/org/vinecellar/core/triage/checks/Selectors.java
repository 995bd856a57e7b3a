package org.vinecellar.core.triage.checks;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** One spelling for the ways in which drivers of browsers and devices print what they look for. */
final class Selectors {
  private static final Pattern POSITION =
      Pattern.compile(
          "(?:\\.(?:first|last)\\(\\)|\\.nth\\(-?\\d+\\)|\\[\\d+\\]| >> nth=\\d+| nth=-?\\d+)+$");
  private static final Pattern CALL =
      Pattern.compile(
          "^(?:page\\.|this\\.page\\.|screen\\.|frame\\.)?(?:locator|\\$\\$?|\\$x|cy\\.get|get|find|Selector|querySelector|element|by\\.(?:css|id)|By\\.\\w+|By\\w*)\\((.*)\\)$");
  private static final Pattern PREFIX =
      Pattern.compile(
          "^(?:By\\.|by\\.)?(id|css|cssSelector|css selector|css_selector|xpath|name|className|class name|class|linkText|link text|link|partialLinkText|tagName|tag name|accessibilityId|accessibility id|text|data-testid|testid|data-test|label|role|uiautomator|-android uiautomator|predicate string|-ios predicate string)(?:: ?|=)(.*)$",
          Pattern.CASE_INSENSITIVE);
  private static final Pattern TEST_ID =
      Pattern.compile(
          "^(?:[a-z][a-z0-9]{0,12})?\\[data-(?:testid|test-id|test|cy|qa)=[\"']?([^\"'\\]]+)[\"']?\\]$");
  private static final Pattern BY_TEST_ID =
      Pattern.compile(
          "^(?:page\\.|screen\\.)?(?:get|find|query)(?:All)?ByTestId\\([\"'](.+)[\"']\\)$");
  private static final Pattern ID_OF_APP = Pattern.compile("^[\\w.]+:id/(.+)$");
  private static final Pattern ATTRIBUTE =
      Pattern.compile(
          "\\b(id|data-testid|data-test|data-cy|aria-label|name|class)=[\"']([^\"']+)[\"']");

  /** A class or id tells enough, whatever element carries it. */
  private static final Pattern TAGGED =
      Pattern.compile(
          "(?:a|button|div|span|li|td|th|tr|ul|ol|p|section|input|form|img|output|label|h[1-6]|nav|main|article|header|footer|aside|table|strong|textarea|select)([.#][\\w-]{3,80})|[a-z][a-z-]{0,30}(#[\\w-]{3,80})");

  private static final Pattern TAG = Pattern.compile("^<?\\s*([a-zA-Z][\\w-]*)");

  /** An element by what it is to people, as browsers' drivers and testing libraries print it. */
  private static final Pattern ROLE =
      Pattern.compile(
          "^(?:page\\.|screen\\.)?(?:(?:get|find|query)_?(?:all_?)?by_?role\\(|role=| ?role )[\"'`]?(\\w+)[\"'`]?(?:, ?\\{? ?name ?[:=] ?| and name |\\[name=)[\"'`/]{1,2}(.+?)[\"'`/]{1,2}[a-z]?[ ,})\\]].*$",
          Pattern.CASE_INSENSITIVE);

  /** An element by its words, as drivers call it, and as testing libraries say it. */
  private static final Pattern WORDS =
      Pattern.compile(
          "^(?:page\\.|screen\\.)?(?:get|find|query)_?(?:all_?)?by_?(text|label)(?:_?text)?\\([\"'/](.{2,200}?)[\"'/][a-z]?(?:, ?[^()]{0,60})?\\)$"
              + "|^(element|label) with the text(?: of)?: (.{2,200})$",
          Pattern.CASE_INSENSITIVE);

  private Selectors() {}

  static String plain(String printed) {
    String text = printed.strip().replace("\\\"", "\"").replace("\\'", "'").replaceAll("\\s+", " ");
    Matcher role = ROLE.matcher(text + " ");
    if (role.matches()) {
      return ("role=" + role.group(1) + " '" + role.group(2) + "'").toLowerCase(Locale.ROOT);
    }
    Matcher words = WORDS.matcher(text);
    if (words.matches()) {
      String what = words.group(1) == null ? words.group(3) : words.group(1);
      String said = words.group(1) == null ? words.group(4) : words.group(2);
      String kind = what.toLowerCase(Locale.ROOT).equals("label") ? "label" : "text";
      return kind + "='" + said.toLowerCase(Locale.ROOT) + "'";
    }
    for (int i = 0; i < 6; i++) {
      String before = text;
      text = unquoted(POSITION.matcher(text).replaceFirst("").strip());
      Matcher byTestId = BY_TEST_ID.matcher(text);
      if (byTestId.matches()) {
        return "testid=" + byTestId.group(1);
      }
      Matcher call = CALL.matcher(text);
      if (call.matches() && !call.group(1).contains(").")) {
        text = call.group(1);
      }
      if (text.equals(before)) {
        break;
      }
    }
    Matcher prefix = PREFIX.matcher(text);
    if (prefix.matches()) {
      String how = prefix.group(1).toLowerCase(Locale.ROOT);
      String rest = unquoted(prefix.group(2).strip());
      text =
          switch (how) {
            case "id" -> "#" + rest;
            case "name" -> "[name=" + rest + "]";
            case "classname", "class name", "class" -> "." + rest;
            case "data-testid", "testid", "data-test" -> "testid=" + rest;
            case "accessibilityid", "accessibility id", "label" -> "~" + rest;
            default -> rest;
          };
    }
    Matcher testId = TEST_ID.matcher(text);
    if (testId.matches()) {
      return "testid=" + testId.group(1);
    }
    Matcher app = ID_OF_APP.matcher(text);
    if (app.matches()) {
      return "#" + app.group(1);
    }
    Matcher tagged = TAGGED.matcher(text);
    if (tagged.matches()) {
      return tagged.group(1) == null ? tagged.group(2) : tagged.group(1);
    }
    return text.replace('"', '\'').replace("\u2026", "");
  }

  /**
   * An element as it was printed, by what names it: {@code <div id="consent" class="x">} is {@code
   * div#consent}.
   */
  static String element(String printed) {
    if (!printed.strip().startsWith("<")) {
      return plain(printed);
    }
    Matcher tag = TAG.matcher(printed.strip());
    String name = tag.find() ? tag.group(1) : "";
    String best = "";
    int rank = 9;
    Matcher attribute = ATTRIBUTE.matcher(printed);
    while (attribute.find()) {
      int at =
          switch (attribute.group(1)) {
            case "id" -> 0;
            case "data-testid", "data-test", "data-cy" -> 1;
            case "aria-label", "name" -> 2;
            default -> 3;
          };
      if (at < rank) {
        rank = at;
        best = attribute.group(2);
      }
    }
    if (best.isEmpty()) {
      return name;
    }
    // An id is one, whatever carries it.
    return rank < 2 ? "#" + best : name + "#" + best;
  }

  private static String unquoted(String text) {
    if (text.length() > 1) {
      char first = text.charAt(0);
      char last = text.charAt(text.length() - 1);
      if (first == last && (first == '\'' || first == '"' || first == '`')) {
        return text.substring(1, text.length() - 1).strip();
      }
    }
    return text;
  }
}
