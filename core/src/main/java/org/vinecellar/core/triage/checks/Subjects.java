package org.vinecellar.core.triage.checks;

import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.traces.Comparison;
import org.vinecellar.core.triage.checks.Subject.Kind;

/**
 * What a failed check names, in the spellings of many check libraries and drivers. The first that
 * fits counts; they stand in the order of how much they tell.
 */
public final class Subjects {
  private static final int MAX_CHARS = 12_000;

  private static final List<Form> FORMS =
      Stream.of(
              ElementForms.FORMS,
              MissingForms.FORMS,
              FieldForms.FORMS,
              ActForms.WAITS,
              CallForms.FORMS,
              ActForms.FORMS)
          .flatMap(List::stream)
          .toList();

  private static final List<Form> EXPRESSIONS = CheckForms.EXPRESSIONS;

  private static final List<Form> DESCRIPTIONS = CheckForms.DESCRIPTIONS;

  private static final Forms ALL =
      new Forms(Stream.of(FORMS, EXPRESSIONS, DESCRIPTIONS).flatMap(List::stream).toList());

  private static final Set<String> VAGUE =
      Set.of(
          """
          result | results | value | actual | expected | response | res | resp | x | y | z | a |
          b | i | n | it | this | that | obj | object | data | output | out | got | want | ok |
          error | err | e | ex | status | code | body | text | message | msg | subject | item |
          items | list | list.size() | size | count | len | length | r | s | v | t | true |
          false | null | none | nil | self | condition | page | element | total_count | ret | rc |
          $status | lines | response.status | response.status_code | response.statuscode |
          res.status | response.code | status_code | statuscode | json | left | right | lhs |
          rhs | answer | found | received | future | a future | the future | promise | a promise |
          condition to be met | download | popup | dialog | filechooser | event | operation | the operation"""
              .split("\\s*\\|\\s*"));

  /** Kinds of elements, of which a page has many. */
  private static final Set<String> ELEMENTS =
      Set.of(
          "button",
          "link",
          "a",
          "div",
          "span",
          "input",
          "select",
          "option",
          "form",
          "table",
          "row",
          "cell",
          "body",
          "main",
          "img",
          "p",
          "h1",
          "h2",
          "h3",
          "heading",
          "dialog",
          "textbox",
          "checkbox",
          "list",
          "listitem",
          "label",
          "textarea");

  private static final Set<String> OF_LANGUAGES =
      Set.of(
          """
          Exception Error Throwable RuntimeException IllegalArgumentException IllegalStateException
          NullPointerException UnsupportedOperationException IndexOutOfBoundsException
          ArrayIndexOutOfBoundsException StringIndexOutOfBoundsException NoSuchElementException
          ArithmeticException NumberFormatException ClassCastException IOException
          FileNotFoundException UncheckedIOException TimeoutException InterruptedException
          ExecutionException CancellationException DateTimeException DateTimeParseException
          ConcurrentModificationException SQLException SecurityException AssertionError
          StackOverflowError OutOfMemoryError BaseException ValueError TypeError KeyError IndexError
          AttributeError RuntimeError LookupError ZeroDivisionError OverflowError ArithmeticError
          NotImplementedError OSError IOError FileNotFoundError PermissionError TimeoutError
          StopIteration UnicodeDecodeError ImportError NameError SystemExit KeyboardInterrupt
          ConnectionError RangeError SyntaxError ReferenceError EvalError URIError AggregateError
          StandardError ArgumentError NoMethodError FloatDomainError FrozenError StopError
          ScriptError RecordInvalid RecordNotFound ArgumentException ArgumentNullException
          ArgumentOutOfRangeException InvalidOperationException NotSupportedException
          NotImplementedException FormatException KeyNotFoundException NullReferenceException
          InvalidCastException DivideByZeroException OverflowException IndexOutOfRangeException
          ObjectDisposedException OperationCanceledException TaskCanceledException
          AggregateException InvalidArgumentException DomainException LogicException
          OutOfRangeException OutOfBoundsException LengthException UnexpectedValueException
          BadMethodCallException ErrorException DivisionByZeroError FunctionClauseError MatchError
          ValidationError ValidationException HttpException ConstraintViolationException"""
              .split("\\s+"));

  /** A name that programs use, and no word of a sentence. */
  private static final Pattern PATH_OF_FIELD =
      Pattern.compile(
          "[A-Za-z_]\\w*(?:[.][A-Za-z_]\\w*)+|[a-z]+(?:[A-Z][a-z0-9]+)+|[a-z]+(?:_[a-z0-9]+)+");

  private static final Pattern EXPRESSION = Pattern.compile("[A-Za-z_][\\w.]*\\([^()\\s]{0,60}\\)");

  private static final Pattern PATH_OF_VALUE =
      Pattern.compile("[A-Za-z_]\\w*(?:[.][A-Za-z_]\\w*)+");

  /** Where a step is defined, behind its words. */
  private static final Pattern PLACED = Pattern.compile(" +# \\S{1,200}:\\d+$");

  /** Whose keyword it is, where that is told. */
  private static final Pattern OF_LIBRARY = Pattern.compile("^[A-Z]\\w*\\.(?=[A-Z])");

  private static final Pattern KEYWORD = Pattern.compile("^(?:Given|When|Then|And|But|\\*) +");

  /** Calls of what every program calls. */
  private static final Pattern BUILT_IN =
      Pattern.compile(
          "\\b(?:len|sum|str|int|list|set|sorted|type|isinstance|any|all|max|min|round|abs|repr|bool|float|dict|tuple|next|iter|hash|count|size|length)\\(");

  private static final Pattern WORD = Pattern.compile("[A-Za-z_]{3,}");

  private static final Pattern SPACES = Pattern.compile("\\s+");
  private static final Pattern LITERALS =
      Pattern.compile("(?:\"[^\"]*\"|'[^']*'|(?<![\\w.])-?\\d[\\d._,]*\\w{0,3}\\b)");

  private static final Pattern PICTURE =
      Pattern.compile(
          "(?:-(?:linux|darwin|win32|chromium|firefox|webkit|expected|actual|diff|received)){0,4}\\.(?:png|jpe?g|webp|snap|golden)$");

  /** The how-manieth of a test it is. */
  private static final Pattern COUNTED = Pattern.compile("(?<=\\w) \\d{1,3}$");

  /** Not all who say what they wait for say what it shall become. */
  private static final Pattern BECOMING =
      Pattern.compile("(?<=\\w) to (?:be|become|appear|finish|complete)\\b.*$");

  /** As Android prints what it looks for: the number changes with each build. */
  private static final Pattern RESOURCE = Pattern.compile("<[\\d,]+/");

  private static final Pattern TIME =
      Pattern.compile(
          "(?:(?:for|up to|after|at least|more than) )*[#\\d.,]+ ?(?:[mnu]?s|h|m|min|secs?|millis|milliseconds?|seconds?|minutes?|hours?)?");

  /** A double of a class, as RSpec prints it. */
  private static final Pattern OF_DOUBLE = Pattern.compile("^(\\w+)\\).*\\)\\.(\\w+)$");

  private static final Pattern NUMBER_OF_DOUBLE = Pattern.compile("\\(#?\\d*\\)");

  /** What a value is compared with, as another argument. */
  private static final Pattern BESIDE = Pattern.compile("^#\\s*,\\s*|\\s*,\\s*#$");

  private static final Pattern COMPARED =
      Pattern.compile("\\s*(?:===?|!==?|>=?|<=?|=>|→|->| is (?:not )?| in | to | eq | be )\\s*");

  /** As languages compare that put the sign before what is compared. */
  private static final Pattern PREFIXED =
      Pattern.compile(
          "^\\((?:=|/=|[<>]=?|eq|eql|equal|equalp|string=|equal\\?|eq\\?|eqv\\?|not=) (.+?)(?: #)?\\)$");

  /** A field, and the type that does not have it. */
  private static final Pattern OF_TYPE =
      Pattern.compile(
          "\"?(\\w+)['\"] (?:does not exist on type '|\\(class )(?:[\\w.]*[.$])?(\\w+).*");

  /** A field of a class, as Jackson and Python print it. */
  private static final Pattern OF_CLASS =
      Pattern.compile("(\\w+)\\[\"([\\w.-]+)\"\\]|'(\\w+)' object has no attribute '(\\w+)'");

  private static final Pattern CLASS = Pattern.compile("(?:[a-z]\\w*\\.)+[A-Z]\\w*");

  private static final Pattern OF_TESTS = Pattern.compile("(?:Tests?|IT|Specs?|Steps)$");

  /** What is waited for may be an element. */
  private static final Pattern SELECTOR =
      Pattern.compile("[#.][A-Za-z][\\w-]{2,80}|\\[[\\w-]{2,40}=[^\\]]{1,80}\\]|//[a-z*].{2,200}");

  private Subjects() {}

  /**
   * @param whole what the failure says, without frames and output
   * @return null when no check names anything
   */
  public static @Nullable Subject in(String whole) {
    String text = whole.length() > MAX_CHARS ? whole.substring(0, MAX_CHARS) : whole;
    BitSet mayFit = ALL.mayFit(text);
    for (int i = 0; i < FORMS.size(); i++) {
      Form form = FORMS.get(i);
      String found = mayFit.get(i) ? form.in(text) : null;
      Subject subject = found == null ? null : named(form.kind(), found);
      if (subject != null) {
        return subject;
      }
    }
    String field = Differing.field(text);
    Comparison comparison = field == null ? Comparison.in(text) : null;
    if (comparison != null) {
      field = Differing.between(comparison.expected(), comparison.actual());
    }
    if (field != null) {
      return new Subject(Kind.FIELD, field, !isVague(field));
    }
    int before = FORMS.size();
    for (int i = 0; i < EXPRESSIONS.size(); i++) {
      Form form = EXPRESSIONS.get(i);
      String found = mayFit.get(before + i) ? form.in(text) : null;
      Subject subject = found == null ? null : expression(found);
      if (subject != null) {
        return subject;
      }
    }
    before += EXPRESSIONS.size();
    for (int i = 0; i < DESCRIPTIONS.size(); i++) {
      Form form = DESCRIPTIONS.get(i);
      String found = mayFit.get(before + i) ? form.in(text) : null;
      if (found != null && (found.startsWith("The following ") || isError(found))) {
        continue;
      }
      if (found != null && PATH_OF_FIELD.matcher(found.strip()).matches()) {
        return new Subject(Kind.FIELD, plainField(found.strip()), !isVague(found.strip()));
      }
      if (found != null && EXPRESSION.matcher(found.strip()).matches()) {
        return expression(found.strip());
      }
      if (found != null && found.strip().indexOf(' ') > 0) {
        return new Subject(
            Kind.DESCRIPTION,
            SPACES.matcher(LITERALS.matcher(found).replaceAll("#")).replaceAll(" ").strip(),
            true);
      }
    }
    return null;
  }

  private static boolean isError(String found) {
    return found.indexOf('\n') < 0
        && (found.endsWith("Error")
            || found.endsWith("Exception")
            || found.endsWith("Failure")
            || found.endsWith("Failed"));
  }

  private static @Nullable Subject named(Kind kind, String found) {
    String name =
        switch (kind) {
          case COVER -> Selectors.element(found);
          case LOCATOR ->
              Selectors.plain(
                  found.indexOf('<') < 0 ? found : RESOURCE.matcher(found).replaceAll("<#/"));
          case CALL ->
              SPACES
                  .matcher(
                      NUMBER_OF_DOUBLE
                          .matcher(OF_DOUBLE.matcher(found).replaceFirst("$1.$2"))
                          .replaceAll(""))
                  .replaceAll(" ");
          case FILE -> Paths.last(found);
          case SNAPSHOT ->
              COUNTED.matcher(PICTURE.matcher(Paths.last(found)).replaceFirst("")).replaceFirst("");
          case BEAN, ERROR -> simple(found.replace(':', '.'));
          case MODULE -> found.replace('/', '.');
          case FIELD -> plainField(SPACES.matcher(found).replaceAll(" "));
          case STEP ->
              LITERALS
                  .matcher(
                      OF_LIBRARY
                          .matcher(
                              SPACES
                                  .matcher(
                                      KEYWORD
                                          .matcher(PLACED.matcher(found).replaceFirst(""))
                                          .replaceFirst(""))
                                  .replaceAll(" "))
                          .replaceFirst(""))
                  .replaceAll("#")
                  .strip();
          case AWAITED ->
              LITERALS
                  .matcher(SPACES.matcher(BECOMING.matcher(found).replaceFirst("")).replaceAll(" "))
                  .replaceAll("#");
          default -> SPACES.matcher(found).replaceAll(" ");
        };
    boolean cut = kind == Kind.LOCATOR && isCut(name);
    if (kind == Kind.AWAITED && SELECTOR.matcher(name).matches()) {
      return named(Kind.LOCATOR, name);
    }
    if (name.isBlank() || name.length() < 2 || cut || kind == Kind.AWAITED && isTime(name)) {
      return null;
    }
    if (kind == Kind.AWAITED && CLASS.matcher(name).matches()) {
      // Where somebody waits, which is no name of it in a test.
      return OF_TESTS.matcher(name).find() ? null : new Subject(kind, simple(name), true);
    }
    if (kind == Kind.ERROR) {
      // Errors of languages come from everywhere, and name nothing.
      return OF_LANGUAGES.contains(name) ? null : new Subject(kind, name, true);
    }
    boolean telling =
        kind == Kind.COVER
            || kind == Kind.LOCATOR && !ELEMENTS.contains(name)
            || kind != Kind.LOCATOR && !isVague(name);
    return new Subject(kind, name, telling);
  }

  /** Whether it ends within brackets, at a quote that stands in them. */
  private static boolean isCut(String locator) {
    int open = locator.lastIndexOf('[');
    return open >= 0 && locator.indexOf(']', open) < 0 && locator.indexOf("…") < 0;
  }

  /** Without what stands for the whole, and without positions in lists. */
  private static String plainField(String name) {
    Matcher ofClass = OF_CLASS.matcher(name);
    if (ofClass.matches()) {
      return ofClass.group(1) == null
          ? ofClass.group(3) + "." + ofClass.group(4)
          : ofClass.group(1) + "." + ofClass.group(2);
    }
    Matcher ofType = OF_TYPE.matcher(name);
    if (ofType.matches()) {
      return ofType.group(2) + "." + ofType.group(1);
    }
    String path =
        name.indexOf('"') < 0
            ? name
            : name.replaceAll(",\\s*\\d+", "").replaceAll(",\\s*", ".").replace("\"", "");
    String plain = path.indexOf('[') < 0 ? path : path.replaceAll("\\[\\d+\\]", "");
    return plain.startsWith("$.")
        ? plain.substring(2)
        : plain.startsWith(".") ? plain.substring(1) : plain;
  }

  private static String simple(String type) {
    int cut = Math.max(type.lastIndexOf('.'), type.lastIndexOf('\\'));
    return type.substring(cut + 1);
  }

  /** An expression without literals: what is compared, not with what. */
  private static @Nullable Subject expression(String found) {
    String shown =
        found.indexOf("Which is") < 0 ? found : found.replaceAll("\\n?\\s*Which is:[^\\n]*", "");
    String text = SPACES.matcher(LITERALS.matcher(shown).replaceAll("#")).replaceAll(" ").strip();
    text = PREFIXED.matcher(BESIDE.matcher(text).replaceAll("")).replaceFirst("$1");
    String[] sides = COMPARED.split(text, 3);
    String telling = "";
    for (String side : sides) {
      String plain = bare(side.strip());
      if (WORD.matcher(BUILT_IN.matcher(plain).replaceAll("(")).find() && !isVague(plain)) {
        telling = telling.isEmpty() ? plain : telling + " ~ " + plain;
      }
    }
    if (telling.isEmpty()) {
      return text.chars().anyMatch(Character::isLetter)
          ? new Subject(Kind.EXPRESSION, text, false)
          : null;
    }
    boolean single =
        telling.matches("\\w+")
            && telling.indexOf('_') < 0
            && telling.equals(telling.toLowerCase(Locale.ROOT));
    // A path to a value is one, whether a check calls it field or expression.
    Kind kind = PATH_OF_VALUE.matcher(telling).matches() ? Kind.FIELD : Kind.EXPRESSION;
    return new Subject(kind, telling, !single);
  }

  /** Without brackets around the whole. */
  private static String bare(String side) {
    boolean around = side.length() > 2 && side.startsWith("(") && side.endsWith(")");
    int depth = 0;
    for (int i = 0; around && i < side.length() - 1; i++) {
      depth += side.charAt(i) == '(' ? 1 : side.charAt(i) == ')' ? -1 : 0;
      around = depth > 0;
    }
    return around ? side.substring(1, side.length() - 1).strip() : side;
  }

  /** Whether it says how long was waited, and not for what. */
  private static boolean isTime(String name) {
    return TIME.matcher(name).matches();
  }

  private static boolean isVague(String name) {
    return VAGUE.contains(name.toLowerCase(Locale.ROOT).replace("$.", ""));
  }
}
