package org.vinecellar.core.triage.reading;

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

  private static final String ENDINGS =
      "(?:Exception|Error|Failure|Failed|Fault|Panic|Timeout|Interrupt|Violation|Mismatch|NotFound|"
          + "Refused|Denied|Expired|Unavailable|Missing|Overflow|Exceeded|Conflict|Rejected|Aborted|"
          + "Deadlock|Unsupported|Throwable|Assertion|Exist|Invalid|Errno|Fail|Err)";

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

  private static final Pattern TYPED =
      Pattern.compile(
          "^((?:[A-Za-z_][\\w$]*(?:\\.|::|\\\\|\\$))*[A-Z][\\w$]*?"
              + ENDINGS
              + "(?:`\\d)?)"
              + "(?: ?\\[[\\w. -]{1,60}\\]| \\([^)]{1,60}\\))?(?: ?:(?= |$|[^:\\d])|$)\\s*(.*)$",
          Pattern.DOTALL);

  /** A type by its package, whatever it is called. */
  private static final Pattern QUALIFIED =
      Pattern.compile(
          "^((?:[A-Za-z_][\\w$]*(?:\\.|::|\\\\))+[A-Z][\\w$]{2,})(?: ?: |:$|$)(.*)$",
          Pattern.DOTALL);

  private static final Pattern ELIXIR = Pattern.compile("^\\*\\* \\(([\\w.]{1,100})\\) ?(.*)$");
  private static final Pattern GO = Pattern.compile("^(?:panic|fatal error): (.*)$");
  private static final Pattern RUST =
      Pattern.compile(
          "^thread '[^']{0,200}'(?: \\(\\d+\\))? panicked at (?:'(.*)', )?(\\S+?\\.rs):(\\d+):\\d+:?$");
  private static final Pattern SANITIZER =
      Pattern.compile(
          "^(?:==\\d+==)? ?(?:ERROR|WARNING): (\\w+Sanitizer): (?:detected )?([\\w -]+?)(?: (?:on|at|\\().*)?$");

  private static final Pattern SWIFT =
      Pattern.compile("^(?:\\S+\\.swift:\\d+: )?Fatal error(?:: (.*))?$");

  /** What Ruby prints: the message, and the class in brackets. */
  private static final Pattern RUBY =
      Pattern.compile("^(?:\\S+\\.rb:\\d+:in [`'][^']{1,200}': )(.*) \\(([A-Z][\\w:]{2,100})\\)$");

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
    Matcher typed = TYPED.matcher(text);
    if (typed.matches()) {
      return new Head(typed.group(1), typed.group(2));
    }
    Matcher qualified = QUALIFIED.matcher(text);
    return qualified.matches() ? new Head(qualified.group(1), qualified.group(2)) : null;
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
    return null;
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
}
