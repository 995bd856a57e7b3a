package org.vinecellar.core.triage.checks;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A request that was answered with another status than was wanted.
 *
 * @param method in capitals; empty where unknown
 * @param route without host, ids and query; empty where unknown
 * @param status 0 where unknown
 */
public record Request(String method, String route, int status) {
  private static final int MAX_CHARS = 12_000;

  private static final List<String> VERBS =
      List.of("GET", "POST", "PUT", "PATCH", "DELETE", "HEAD", "OPTIONS");

  private static final String METHODS = String.join("|", VERBS);

  /** What was wanted and what came; which of the two stands first is told by the words. */
  private static final List<Pattern> WANTED_FIRST =
      List.of(
          Pattern.compile(
              "(?is)\\bexpected\\b[^\\n]{0,60}?\\b([1-5]\\d\\d)\\b[^\\n]{0,60}?(?:\\bbut\\b|\\bgot\\b|\\bactual\\b|\\breceived\\b|\\bwas\\b|\\bfound\\b)[^\\d\\n]{0,30}\\b([1-5]\\d\\d)\\b"),
          Pattern.compile(
              "(?i)expected:? *<?([1-5]\\d\\d)\\b[^\\n]*\\n\\s*(?:received|actual|but was|got|found):? *<?([1-5]\\d\\d)\\b"),
          Pattern.compile(
              "(?is)\\bwant(?:ed)?\\b[^\\d\\n]{0,20}([1-5]\\d\\d)\\b[^\\d\\n]{0,30}\\bgot\\b[^\\d\\n]{0,20}([1-5]\\d\\d)"),
          Pattern.compile(
              "\\{value: ([1-5]\\d\\d)\\}[^\\n]{0,60}?\\bfound\\b[^\\n]{0,60}?\\{value: ([1-5]\\d\\d)\\}"),
          Pattern.compile(
              "(?i)\\bstatus[^\\n]{0,20}? was:? ([1-5]\\d\\d), expected:? ([1-5]\\d\\d)()"));

  private static final List<Pattern> CAME_FIRST =
      List.of(
          Pattern.compile(
              "(?is)\\bgot\\b[^\\d\\n]{0,30}([1-5]\\d\\d)\\b[^\\n]{0,40}?\\b(?:want|expected)(?:ed)?\\b[^\\d\\n]{0,20}([1-5]\\d\\d)"),
          Pattern.compile(
              "(?i)\\b([1-5]\\d\\d)(?: \\w[\\w ]{0,30})? (?:is not equal to|was not equal to|did not equal|does not equal|!=|!==|to equal|matches expected|should be|is not) [^\\d\\n]{0,12}([1-5]\\d\\d)\\b"),
          Pattern.compile(
              "(?i)\\bstatus(?: code)?[^\\n]{0,20}? was:? ([1-5]\\d\\d), expected:? ([1-5]\\d\\d)"),
          Pattern.compile("(?i)assert ([1-5]\\d\\d) == ([1-5]\\d\\d)\\b"));

  private static final Pattern ALONE =
      Pattern.compile(
          "(?i:\\bHTTP(?:/[\\d.]+)?:? (?:status |error |code )?)([1-5]\\d\\d)\\b|(?i:status(?:[ _-]?code)?\"?)(?:[:= ]|is|of|was|with|\\(|<){1,4}([1-5]\\d\\d)\\b|\\b([45]\\d\\d):? (?:Internal Server|Server Error|Client Error|Not Found|Bad Request|Unauthorized|Forbidden|Conflict|Unprocessable|Service Unavailable|Bad Gateway|Gateway|Too Many|Not Implemented|Gone|Precondition|Method Not|Locked|Payment|Not Acceptable|Request|Unsupported)|(?i:(?:server|client|response) error:? )[('\"]?([45]\\d\\d)\\b|\\[([45]\\d\\d)\\] during \\[|status code[\\s\\S]{0,200}?\\bactual value is <([1-5]\\d\\d)>|(?i:does not indicate success: |responded with(?: a)?(?: status)?(?: code)? |[-=]> |→ |returned(?: a)?(?: status)?(?: code)? |answered(?: with)? |failed with(?: status)?(?: code)? |resulted in a `?|HTTPError: |HttpError: |code )([1-5]\\d\\d)\\b");

  private static final Pattern CALL =
      Pattern.compile(
          "\\b("
              + METHODS
              + ")\\b(?: request)?(?: (?:to|for|on|at))?[\\]:\"'`,]?\\s{1,3}(?:to |for |on )?[\\[<\"'`(]?((?:https?://[^\\s\"'`<>\\])]+)|/[^\\s\"'`<>\\])]*)");
  private static final Pattern UNMATCHED =
      Pattern.compile(
          "(?i)\\bno match for request\\b|without a matching request handler|request was not matched|\\bunhandled request\\b|unregistered request|real http connections are disabled|no (?:stub|mock)(?:bed)?(?: response| mapping| request)? (?:was |is )?(?:found|matched|matches)[^\\n]{0,30}request|unexpected (?:http )?request\\b|request (?:was )?unexpected|no more requests expected");
  private static final Pattern FEIGN =
      Pattern.compile("\\[(" + METHODS + ")\\] to \\[([^\\]]+)\\]");
  private static final Pattern METHOD =
      Pattern.compile("(?i)[\"']?method[\"']?\\s*[:= ]\\s*[\"']?(" + METHODS + ")\\b");
  private static final Pattern METHOD_ALONE =
      Pattern.compile("\\b(" + METHODS + ")\\b(?= (?:request|call|https?:|on|to|for)\\b)");
  private static final Pattern ADDRESS =
      Pattern.compile(
          "(?i)(?:[\"']?\\b(?:url|uri|path|endpoint|route|href|requestUri|request_uri|target)[\"']?\\s*[:=(]\\s*[\"'(<]?)((?:https?://|/)[^\\s\"'`<>)\\],}]*)|\\bfor url:? \\(?(https?://[^\\s\"'<>)]+)|\\b(https?://[^\\s\"'`<>)\\],}]+)");
  private static final Pattern ROUTE_ALONE =
      Pattern.compile(
          "(?:^|[\\s\"'`(\\[<])(/(?:api/|v\\d/)?[a-z][\\w{}:.-]*(?:/[\\w{}:.@-]+){0,8})(?=$|[\\s\"'`)\\],:;>?])");

  private static final List<String> STATUS_WORDS =
      List.of(
          "tatus",
          "HTTP",
          "http",
          "STATUS",
          "esponse",
          "Server Error",
          "Client Error",
          "Internal Server",
          "Not Found",
          "Bad Request",
          "Conflict",
          "Forbidden",
          "Unauthorized",
          "responded",
          "returned",
          " during [");

  private static final Set<String> FILE_ENDINGS =
      Set.of(
          "java", "py", "rb", "js", "ts", "php", "go", "cs", "rs", "kt", "scala", "swift", "json",
          "csv", "xml", "yml", "yaml", "txt", "log", "sh", "html", "png", "sock", "feature", "bats",
          "robot");

  /** Reads it from what a failure says; null when no status is told. */
  public static @Nullable Request in(String whole) {
    String text = whole.length() > MAX_CHARS ? whole.substring(0, MAX_CHARS) : whole;
    int status = mayTell(text) ? status(text) : 0;
    return status == 0 ? null : of(text, status);
  }

  /** A request that no stand-in was told to answer; null when it is another failure. */
  public static @Nullable Request unmatched(String whole) {
    String text = whole.length() > MAX_CHARS ? whole.substring(0, MAX_CHARS) : whole;
    if (!text.contains("equest") || !UNMATCHED.matcher(text).find()) {
      return null;
    }
    Request found = of(text, 0);
    return found.route.isEmpty() ? null : found;
  }

  private static Request of(String text, int status) {
    Matcher call = CALL.matcher(text);
    if (call.find()) {
      return new Request(call.group(1), route(call.group(2)), status);
    }
    Matcher feign = FEIGN.matcher(text);
    if (feign.find()) {
      return new Request(feign.group(1), route(feign.group(2)), status);
    }
    Matcher method = METHOD.matcher(text);
    String verb = method.find() ? method.group(1).toUpperCase(Locale.ROOT) : "";
    if (verb.isEmpty()) {
      Matcher alone = METHOD_ALONE.matcher(text);
      verb = alone.find() ? alone.group(1) : "";
    }
    Matcher address = ADDRESS.matcher(text);
    while (address.find()) {
      String found =
          address.group(1) == null
              ? address.group(2) == null ? address.group(3) : address.group(2)
              : address.group(1);
      if (!isDocumentation(found)) {
        return new Request(verb, route(found), status);
      }
    }
    Matcher route = ROUTE_ALONE.matcher(text);
    while (route.find()) {
      String path = route.group(1);
      int dot = path.lastIndexOf('.');
      boolean file =
          dot > 0 && FILE_ENDINGS.contains(path.substring(dot + 1))
              || path.startsWith("/home")
              || path.startsWith("/tmp")
              || path.startsWith("/var")
              || path.startsWith("/usr")
              || path.startsWith("/builds")
              || path.startsWith("/app/")
              || path.startsWith("/opt/");
      if (!file) {
        return new Request(verb, Paths.route(path), status);
      }
    }
    return new Request(verb, "", status);
  }

  /** Whether there is a number that may be a status at all: three digits by themselves. */
  private static boolean mayTell(String text) {
    int run = 0;
    for (int i = 0; i <= text.length(); i++) {
      char c = i < text.length() ? text.charAt(i) : ' ';
      if (c >= '0' && c <= '9') {
        run++;
        continue;
      }
      if (run == 3 && text.charAt(i - 3) <= '5') {
        return speaksOfStatus(text);
      }
      run = 0;
    }
    return false;
  }

  private static boolean isDocumentation(String url) {
    return url.contains("developer.mozilla")
        || url.contains("httpstatuses")
        || url.contains("/docs/")
        || url.contains("github.com")
        || url.contains("errors.")
        || url.contains("/problems/");
  }

  private static String route(String address) {
    int scheme = address.indexOf("://");
    if (scheme < 0) {
      return Paths.route(trimmed(address));
    }
    int slash = address.indexOf('/', scheme + 3);
    return slash < 0 ? "/" : Paths.route(trimmed(address.substring(slash)));
  }

  private static String trimmed(String path) {
    int end = path.length();
    while (end > 1 && ".,:;)".indexOf(path.charAt(end - 1)) >= 0) {
      end--;
    }
    return path.substring(0, end);
  }

  private static int status(String text) {
    for (Pattern pattern : CAME_FIRST) {
      Matcher matcher = pattern.matcher(text);
      if (matcher.find() && speaksOfStatus(text)) {
        return Integer.parseInt(matcher.group(1));
      }
    }
    for (Pattern pattern : WANTED_FIRST) {
      Matcher matcher = pattern.matcher(text);
      if (matcher.find() && speaksOfStatus(text)) {
        return Integer.parseInt(matcher.group(2));
      }
    }
    Matcher alone = ALONE.matcher(text);
    while (alone.find()) {
      for (int i = 1; i <= alone.groupCount(); i++) {
        if (alone.group(i) != null && Integer.parseInt(alone.group(i)) >= 300) {
          return Integer.parseInt(alone.group(i));
        }
      }
    }
    return 0;
  }

  /** Three digits are a status only where something says so. */
  private static boolean speaksOfStatus(String text) {
    for (String word : STATUS_WORDS) {
      if (text.contains(word)) {
        return true;
      }
    }
    for (String method : VERBS) {
      if (text.contains(method)) {
        return CALL.matcher(text).find();
      }
    }
    return false;
  }
}
