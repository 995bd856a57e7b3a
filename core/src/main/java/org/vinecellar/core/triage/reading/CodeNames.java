package org.vinecellar.core.triage.reading;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Names of functions as compilers and runtimes print them, brought back to what somebody wrote:
 * without lambdas, closures, state machines, proxies, mocks, generics and packages.
 */
public final class CodeNames {
  private static final int MAX_CHARS = 600;

  /** From here on, a name of the JVM or of .NET is generated. */
  private static final Pattern GENERATED_CLASS =
      Pattern.compile(
          "\\$\\$.*|\\$(?:Proxy|MockitoMock|ByteBuddy|HibernateProxy|Lambda|Companion|DefaultImpls|"
              + "Mock|Spy|EnhancerBy|WhenMappings|serializer)\\b.*|\\$(?:Proxy\\d+).*"
              + "|_(?:Subclass|ClientProxy|Bean|WeldSubclass|Impl_Subclass)\\b.*|_\\$\\$_.*");

  /** What Kotlin and Scala make of a lambda in a method: {@code FareTable$priced$1}. */
  private static final Pattern CLASS_OF_LAMBDA =
      Pattern.compile("^(.*?)\\$(?:\\$?anonfun\\$)?([a-z_]\\w*)\\$.*$");

  private static final Pattern CLOSURE_OF_GROOVY =
      Pattern.compile("^(.*?)\\$?_([A-Za-z]\\w*?)_(?:closure|lambda)\\d+.*$");

  private static final Pattern LAMBDA =
      Pattern.compile(
          "^(?:lambda\\$|\\$anonfun\\$|access\\$|\\$r8\\$lambda\\$)([A-Za-z_]\\w*?)(?:\\$.*)?$");
  private static final Pattern TAIL =
      Pattern.compile("(?:\\$[\\w$-]*|-(?=\\w*[A-Z0-9])(?=\\w*[a-z])[A-Za-z0-9_]{6,8}|-impl)$");

  /** The method that .NET made a class or method for. */
  private static final Pattern INSIDE_ANGLES = Pattern.compile("<+([A-Za-z_]\\w*)>[a-z]__");

  private static final Pattern GENERICS =
      Pattern.compile("`\\d+(?:\\[[^\\]]*\\])?|\\[[\\w., \\[\\]]*\\]");

  private static final Pattern GO =
      Pattern.compile("^(?:.*/)?([\\w-]+)\\.(?:\\(\\*?([\\w\\[\\].]+)\\)\\.)?(\\w+)");

  private static final Pattern CLOJURE_CALL =
      Pattern.compile("\\.(?:invoke|invokeStatic|invokePrim|doInvoke|applyTo)$");

  private static final Pattern HASH_OF_RUST = Pattern.compile("::h[0-9a-f]{8,16}$");

  private static final Pattern RUBY_PLACE =
      Pattern.compile("^(?:(?:block|rescue|ensure|else)(?: \\(\\d+ levels\\))? in )+");

  private CodeNames() {}

  /** A class or module, and a function in it. */
  record Name(String owner, String function) {}

  static Name of(String printed) {
    String text = printed.length() > MAX_CHARS ? printed.substring(0, MAX_CHARS) : printed;
    text = text.strip();
    if (text.isEmpty()) {
      return new Name("", "");
    }
    if (text.indexOf('/') >= 0 && text.indexOf(' ') < 0 && !text.startsWith("<")) {
      int slash = text.lastIndexOf('/');
      // Elixir's arity, or the directory of a package of Go.
      if (text.substring(slash + 1).chars().allMatch(Character::isDigit)) {
        text = text.substring(0, slash);
      } else {
        Matcher go = GO.matcher(text);
        if (go.find()) {
          return go(go);
        }
      }
    }
    if (text.contains(".(*") || text.contains(".func")) {
      Matcher go = GO.matcher(text);
      if (go.find()) {
        return go(go);
      }
    }
    if (text.indexOf('<') >= 0 || text.indexOf('`') >= 0) {
      Name net = ofNet(text);
      if (net != null) {
        return net;
      }
    }
    if (text.indexOf('$') > 0 && CLOJURE_CALL.matcher(text).find()) {
      return ofClojure(text);
    }
    if (text.startsWith("__") && text.contains("_MOD_")) {
      // As compilers of Fortran join them.
      int middle = text.indexOf("_MOD_");
      return new Name(text.substring(2, middle), text.substring(middle + 5));
    }
    if (text.startsWith("_app_views_") || text.startsWith("_views_")) {
      // What a template is compiled to: only its file is somebody's.
      return new Name("", "");
    }
    if (text.indexOf("::") > 0) {
      text = HASH_OF_RUST.matcher(text).replaceFirst("");
      text = text.replace("::{{closure}}", "").replace("::{closure#0}", "");
    }
    if (text.indexOf(" in ") > 0) {
      text = RUBY_PLACE.matcher(text).replaceFirst("");
    }
    text = withoutBrackets(text);
    int cut = lastSeparator(text);
    String before = cut < 0 ? "" : text.substring(0, cut);
    String function = text.substring(cut < 0 ? 0 : cut + separatorLength(text, cut));
    return tidied(before, function);
  }

  /** {@code booking.fares$price_for$fn__12.invoke}: a namespace, a function, what is in it. */
  private static Name ofClojure(String text) {
    int dollar = text.indexOf('$');
    int end = dollar + 1;
    while (end < text.length() && text.charAt(end) != '$' && text.charAt(end) != '.') {
      end++;
    }
    String function = text.substring(dollar + 1, end);
    return new Name(lastOf(text.substring(0, dollar)), function.startsWith("fn__") ? "" : function);
  }

  private static Name go(Matcher go) {
    String type = go.group(2);
    String owner = type == null ? "" : type.replaceAll("\\[.*", "");
    return new Name(owner, go.group(3));
  }

  private static @Nullable Name ofNet(String text) {
    Matcher inside = INSIDE_ANGLES.matcher(text);
    String function = null;
    int from = -1;
    while (inside.find()) {
      function = function == null || function.equals("Main") ? inside.group(1) : function;
      from = from < 0 ? inside.start() : from;
    }
    if (function == null) {
      return null;
    }
    String before = GENERICS.matcher(text.substring(0, from)).replaceAll("");
    int generated = before.indexOf("<>");
    before = generated >= 0 ? before.substring(0, generated) : before;
    while (before.endsWith(".") || before.endsWith("+") || before.endsWith("/")) {
      before = before.substring(0, before.length() - 1);
    }
    return new Name(lastOf(before), function);
  }

  private static Name tidied(String before, String printed) {
    String function = printed;
    String owner = before;
    if (owner.indexOf('$') >= 0 || owner.indexOf('_') >= 0) {
      Matcher closure = CLOSURE_OF_GROOVY.matcher(owner);
      Matcher lambda = CLASS_OF_LAMBDA.matcher(owner);
      if (closure.matches()) {
        owner = closure.group(1);
        function = closure.group(2);
      } else if (!owner.contains("$$Lambda") && lambda.matches()) {
        owner = lambda.group(1);
        function = lambda.group(2);
      }
      owner = GENERATED_CLASS.matcher(owner).replaceFirst("");
    }
    if (owner.indexOf('`') >= 0 || owner.indexOf('[') >= 0) {
      owner = GENERICS.matcher(owner).replaceAll("");
    }
    boolean marked = function.indexOf('$') >= 0;
    Matcher lambda = marked ? LAMBDA.matcher(function) : null;
    if (lambda != null && lambda.matches()) {
      function = lambda.group(1);
    } else if (marked || function.indexOf('-') > 0) {
      function = TAIL.matcher(function).replaceFirst("");
    }
    return new Name(lastOf(owner), function);
  }

  /** Without arguments and type parameters, wherever they stand. */
  private static String withoutBrackets(String text) {
    if (text.indexOf('(') < 0 && text.indexOf('<') < 0 && text.indexOf('[') < 0) {
      return text;
    }
    StringBuilder out = new StringBuilder(text.length());
    int depth = 0;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      boolean initial =
          c == '<' && (text.startsWith("<init>", i) || text.startsWith("<clinit>", i));
      if (initial) {
        int end = text.indexOf('>', i);
        out.append(text, i + 1, end);
        i = end;
      } else if (c == '(' || c == '<' || c == '[') {
        depth++;
      } else if (c == ')' || c == '>' || c == ']') {
        // The arrow of PHP is no bracket.
        if (c == '>' && i > 0 && text.charAt(i - 1) == '-') {
          out.append(c);
        } else {
          depth = Math.max(0, depth - 1);
        }
      } else if (depth == 0) {
        out.append(c);
      }
    }
    return out.toString().strip();
  }

  private static int lastSeparator(String text) {
    for (int i = text.length() - 1; i > 0; i--) {
      char c = text.charAt(i);
      if (c == '.' || c == '#' || (c == '>' && text.charAt(i - 1) == '-')) {
        boolean constructor = c == '.' && text.charAt(i - 1) == '.';
        return c == '>' || constructor ? i - 1 : i;
      }
      if (c == ':' && text.charAt(i - 1) == ':') {
        return i - 1;
      }
      if (c == ' ' || c == '\\') {
        return i;
      }
    }
    return -1;
  }

  private static int separatorLength(String text, int at) {
    return text.startsWith("->", at) || text.startsWith("::", at) || text.startsWith("..", at)
        ? 2
        : 1;
  }

  /** The last word that is a name: of {@code org.skerrow.Fares$Table}, {@code Fares$Table}. */
  private static String lastOf(String path) {
    int end = path.length();
    while (end > 0 && !Character.isLetterOrDigit(path.charAt(end - 1))) {
      end--;
    }
    int start = end;
    while (start > 0) {
      char c = path.charAt(start - 1);
      if (!Character.isLetterOrDigit(c) && c != '_' && c != '$') {
        break;
      }
      start--;
    }
    String last = path.substring(start, end);
    // Numbers of anonymous classes, and what an inner class stands in.
    String plain = last.indexOf('$') < 0 ? last : last.replaceAll("\\$\\d+", "");
    while (plain.endsWith("$")) {
      plain = plain.substring(0, plain.length() - 1);
    }
    return plain;
  }

  /** The name of a file without directories and extensions. */
  static String stem(String path) {
    int slash = Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\'));
    String name = path.substring(slash + 1);
    int dot = name.indexOf('.', 1);
    return dot < 0 ? name : name.substring(0, dot);
  }

  /** One spelling for {@code FareTable}, {@code fare_table} and {@code fareTable}. */
  public static String plain(String name) {
    StringBuilder out = null;
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      boolean dropped = c == '_' || c == '-' || c == ' ';
      char low = Character.toLowerCase(c);
      if ((dropped || low != c) && out == null) {
        out = new StringBuilder(name.length()).append(name, 0, i);
      }
      if (out != null && !dropped) {
        out.append(low);
      }
    }
    String plain = out == null ? name : out.toString();
    // What Kotlin calls the class of a file.
    return plain.endsWith("kt") && name.endsWith("Kt")
        ? plain.substring(0, plain.length() - 2)
        : plain.toLowerCase(Locale.ROOT);
  }
}
