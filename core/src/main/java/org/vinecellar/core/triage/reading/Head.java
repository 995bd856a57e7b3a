package org.vinecellar.core.triage.reading;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The beginning of an error in a text: its type and the first line of its message.
 *
 * @param type as printed
 */
record Head(String type, String message) {
  private static final int MAX_LINE = 4_000;

  private static final List<String> TYPE_ENDINGS =
      List.of(
          "Exception",
          "Error",
          "Failure",
          "Failed",
          "Fault",
          "Panic",
          "Timeout",
          "Interrupt",
          "Violation",
          "Mismatch",
          "NotFound",
          "Refused",
          "Denied",
          "Expired",
          "Unavailable",
          "Missing",
          "Overflow",
          "Exceeded",
          "Conflict",
          "Rejected",
          "Aborted",
          "Deadlock",
          "Unsupported",
          "Throwable",
          "Assertion",
          "Exist",
          "Invalid",
          "Errno",
          "Fail",
          "Err");

  private static final String ENDINGS = "(?:" + String.join("|", TYPE_ENDINGS) + ")";

  /** What may stand before it and tells nothing of it. */
  private static final Pattern PREFIX =
      Pattern.compile(
          "^(?:Exception in thread \"[^\"]{0,200}\" |Uncaught (?:exception )?(?:\\(in promise\\) )?|"
              + "Unhandled (?i:exception|rejection)[.:]? +|PHP Fatal error: +Uncaught |Fatal error: Uncaught |"
              + "Error: Uncaught (?:\\(in promise\\) )?|(?:ERROR|error|Error|FAILED|FAILURE|Failure|Failed): "
              + "(?=[\\w.$\\\\:]+"
              + ENDINGS
              + "\\b[^:]{0,40}:)|\\d+\\) |-{2,5}> |-{4} |=> |✖ |× |✗ |● |"
              + "Unexpected exception thrown: |uncaught exception: |org\\.junit\\.\\S*MultipleFailuresError: .*?\\d+ failures?\\)\\s*)+");

  /** What stands between a type and its message, with the message. */
  private static final Pattern AFTER_TYPE =
      Pattern.compile(
          "(?:`\\d)?(?: ?\\[[\\w. -]{1,60}\\]| \\([^)]{1,60}\\))?(?: ?:(?= |$|[^:\\d])|$)\\s*(.*)$",
          Pattern.DOTALL);

  /** What stands after a type that is known by its package, whatever it is called. */
  private static final Pattern AFTER_QUALIFIED =
      Pattern.compile("(?: ?: |:$|$)(.*)$", Pattern.DOTALL);

  private static final Pattern ELIXIR = Pattern.compile("^\\*\\* \\(([\\w.]{1,100})\\) ?(.*)$");
  private static final Pattern GO = Pattern.compile("^(?:panic|fatal error): (.*)$");
  private static final Pattern RUST =
      Pattern.compile(
          "^thread '[^']{0,200}'(?: \\(\\d+\\))? panicked at (?:'(.*)', )?(\\S+?\\.rs):(\\d+):\\d+:?$");

  /** Older ones, whose message goes on in further lines. */
  private static final Pattern RUST_BEFORE =
      Pattern.compile("^thread '[^']{0,200}' panicked at '(.*)$");

  private static final Pattern SANITIZER =
      Pattern.compile(
          "^(?:==\\d+==)? ?(?:ERROR|WARNING): (\\w+Sanitizer): (?:detected )?([\\w -]+?)(?: (?:on|at|\\().*)?$");

  private static final Pattern SWIFT =
      Pattern.compile("^(?:\\S+\\.swift:\\d+: )?Fatal error(?:: (.*))?$");

  /** What Ruby prints: the message, and the class in brackets. */
  private static final Pattern RUBY =
      Pattern.compile("^(?:\\S+\\.rb:\\d+:in [`'][^']{1,200}': )(.*) \\(([A-Z][\\w:]{2,100})\\)$");

  /** A runtime that names what was raised: {@code raised Fares.Sold_Out : berth 3}. */
  private static final Pattern RAISED =
      Pattern.compile("^raised ([A-Za-z]\\w{0,100}(?:\\.\\w{1,100}){0,8})(?: : (.*))?$");

  /** {@code Exception name: SOLD_OUT}, and what else it is called. */
  private static final Pattern CALLED =
      Pattern.compile(
          "^(?i:(?:exception|error|condition)[ _-]?(?:name|class|type)) ?[:=] ?[\"'`]?([A-Za-z][\\w.:$\\\\/-]{2,200})[\"'`]?$");

  /** As Lisp prints a condition. */
  private static final Pattern CONDITION =
      Pattern.compile(
          "^(?:(?:Unexpected Error|Unhandled|Condition):? #<([A-Z][A-Z0-9:/*!-]{2,150})(?: .*)?>|Condition ([A-Z][A-Z0-9:/*!-]{2,150}) was signalled\\.?|([A-Z][A-Z0-9:/]{0,80}(?:-[A-Z0-9:/]{1,80}){0,8}-(?:ERROR|ZERO|VARIABLE|FUNCTION|CONDITION|FAILURE|FOUND|DEPENDENCY)): (.*))$");

  private static final Pattern INLINE =
      Pattern.compile(
          "(?:^|[\\s(\\[<>;:\"'{=])((?:[A-Za-z_][\\w$]*(?:\\.|\\\\|::))*[A-Z][\\w$]*(?:Exception|Error|Refused|Timeout|Failure))"
              + "(?: ?\\[[\\w. -]{1,60}\\])?(?:: | : |\\(\")");

  /** Reads a line as the beginning of an error; null when it is none. */
  static @Nullable Head read(String raw) {
    String line = raw.length() > MAX_LINE ? raw.substring(0, MAX_LINE) : raw;
    String stripped = line.strip();
    boolean prefixed = !stripped.isEmpty() && mayHavePrefix(stripped);
    String text = prefixed ? PREFIX.matcher(stripped).replaceFirst("") : stripped;
    if (text.length() < 3) {
      return null;
    }
    char first = text.charAt(0);
    if (first == '*') {
      Matcher elixir = ELIXIR.matcher(text);
      return elixir.matches() ? new Head(elixir.group(1), elixir.group(2)) : null;
    }
    if (first == 'p' || first == 'f' || first == 't') {
      Head special = lowCase(text);
      if (special != null) {
        return special;
      }
    }
    if (first == 'F' || text.contains(".swift:")) {
      Matcher swift = SWIFT.matcher(text);
      if (swift.matches()) {
        return new Head("FatalError", swift.group(1) == null ? "" : swift.group(1));
      }
    }
    if (text.endsWith(")") && text.contains(".rb:")) {
      Matcher ruby = RUBY.matcher(text);
      if (ruby.matches()) {
        return new Head(ruby.group(2), ruby.group(1));
      }
    }
    if (text.contains("Sanitizer: ")) {
      Matcher sanitizer = SANITIZER.matcher(text);
      if (sanitizer.matches()) {
        return new Head(sanitizer.group(2).strip().replace(' ', '-'), text);
      }
    }
    if (!Character.isLetter(first) && first != '_') {
      return null;
    }
    Head called = called(text, first);
    return called == null ? typed(text) : called;
  }

  /** Where words say that what follows is the type. */
  private static @Nullable Head called(String text, char first) {
    if (first == 'r' && text.startsWith("raised ")) {
      Matcher raised = RAISED.matcher(text);
      return raised.matches()
          ? new Head(raised.group(1), raised.group(2) == null ? "" : raised.group(2))
          : null;
    }
    int end = Math.max(text.indexOf(':'), text.indexOf('='));
    if (end > 7 && end < 20 && "eEcC".indexOf(first) >= 0) {
      Matcher called = CALLED.matcher(text);
      if (called.matches()) {
        return new Head(called.group(1), "");
      }
    }
    boolean lisp = text.contains("#<") || first >= 'A' && first <= 'Z' && text.indexOf('-') > 1;
    Matcher condition = lisp || text.startsWith("Condition ") ? CONDITION.matcher(text) : null;
    if (condition == null || !condition.matches()) {
      return null;
    }
    String type = condition.group(1) == null ? condition.group(2) : condition.group(1);
    return new Head(
        type == null ? condition.group(3) : type,
        condition.group(4) == null ? "" : condition.group(4));
  }

  /** A name at the beginning of a text: of a class, with or without its package. */
  private static @Nullable Head typed(String text) {
    int length = text.length();
    int last = 0;
    int end = 0;
    while (end < length && isStart(text.charAt(end))) {
      last = end;
      while (end < length && isName(text.charAt(end))) {
        end++;
      }
      int separator =
          end >= length
              ? 0
              : text.charAt(end) == '.' || text.charAt(end) == '\\'
                  ? 1
                  : text.startsWith("::", end) ? 2 : 0;
      if (separator == 0 || end + separator >= length || !isStart(text.charAt(end + separator))) {
        break;
      }
      end += separator;
    }
    if (isType(text, last, end)) {
      Matcher after = AFTER_TYPE.matcher(text).region(end, length);
      if (after.lookingAt()) {
        boolean generic = end < length && text.charAt(end) == '`';
        return new Head(text.substring(0, generic ? end + 2 : end), after.group(1));
      }
    }
    boolean qualified = last > 0 && end - last > 2 && isCapital(text.charAt(last));
    Matcher after = qualified ? AFTER_QUALIFIED.matcher(text).region(end, length) : null;
    return after != null && after.lookingAt()
        ? new Head(text.substring(0, end), after.group(1))
        : null;
  }

  /** Whether a name, or what stands behind a dollar in it, is that of a class of errors. */
  private static boolean isType(String text, int from, int end) {
    int start = from;
    while (start < end && !isCapital(text.charAt(start))) {
      int dollar = text.indexOf('$', start);
      start = dollar < 0 || dollar >= end ? end : dollar + 1;
    }
    for (String ending : TYPE_ENDINGS) {
      if (end - ending.length() > start && text.startsWith(ending, end - ending.length())) {
        return true;
      }
    }
    return false;
  }

  private static boolean isCapital(char c) {
    return c >= 'A' && c <= 'Z';
  }

  private static boolean isStart(char c) {
    return isCapital(c) || c >= 'a' && c <= 'z' || c == '_';
  }

  private static boolean isName(char c) {
    return isStart(c) || c >= '0' && c <= '9' || c == '$';
  }

  private static boolean mayHavePrefix(String line) {
    char first = line.charAt(0);
    if (first >= '0' && first <= '9') {
      return line.indexOf(") ") > 0;
    }
    return first == 'o' ? line.startsWith("org.junit") : "EUPFeuf-=✖×✗●".indexOf(first) >= 0;
  }

  private static @Nullable Head lowCase(String text) {
    Matcher go = GO.matcher(text);
    if (go.matches()) {
      String message = go.group(1).replaceFirst(" \\[recovered(?:, repanicked)?\\]$", "");
      return new Head(typeOfPanic(message), message);
    }
    Matcher rust = RUST.matcher(text);
    if (rust.matches()) {
      String message = rust.group(1) == null ? "" : rust.group(1);
      return new Head(typeOfPanic(message), message);
    }
    Matcher before = RUST_BEFORE.matcher(text);
    return before.matches() ? new Head(typeOfPanic(before.group(1)), before.group(1)) : null;
  }

  /** A panic has no type; what the runtime says tells kinds of it apart. */
  static String typeOfPanic(String message) {
    if (message.contains("index out of ") || message.contains("slice bounds out of range")) {
      return "IndexOutOfRange";
    }
    if (message.contains("nil pointer") || message.contains("nil map")) {
      return "NilPointer";
    }
    if (message.contains("divide by zero")) {
      return "DivideByZero";
    }
    if (message.contains("interface conversion")) {
      return "InterfaceConversion";
    }
    if (message.contains("`None` value")) {
      return "UnwrapOfNone";
    }
    if (message.contains("on an `Err` value")) {
      return "UnwrapOfErr";
    }
    if (message.startsWith("attempt to ")) {
      return "Overflow";
    }
    return message.startsWith("assertion ") ? "AssertionPanic" : "Panic";
  }

  /** The innermost error that is quoted inside the message; null when there is none. */
  @Nullable Head inline() {
    if (message.length() < 8) {
      return null;
    }
    String text = message.length() > MAX_LINE ? message.substring(0, MAX_LINE) : message;
    if (!quotesError(text)) {
      return null;
    }
    Matcher matcher = INLINE.matcher(text);
    Head found = null;
    int guard = 0;
    int from = 0;
    while (guard++ < 20 && matcher.find(from)) {
      found = new Head(matcher.group(1), text.substring(matcher.end()).strip());
      from = Math.max(matcher.end() - 1, matcher.start() + 1);
    }
    return found;
  }

  private static boolean quotesError(String text) {
    return (text.indexOf(':') > 0 || text.indexOf('(') > 0)
        && (text.contains("Error")
            || text.contains("Exception")
            || text.contains("Refused")
            || text.contains("Timeout")
            || text.contains("Failure"));
  }
}
