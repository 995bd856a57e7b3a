package org.vinecellar.core.triage.reading;

import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Reads one line of a trace, in the spellings of many runtimes. What language a text is of is not
 * asked: the spellings tell themselves apart.
 *
 * <p>All expressions are anchored and see one line of bounded length, so that none takes long.
 */
public final class FrameReader {
  /** Longer lines are no frames. */
  static final int MAX_LINE = 1_000;

  private static final int MOST_BLANKS = 24;
  private static final String MANY_BLANKS = " ".repeat(16);
  private static final Pattern GAPS = Pattern.compile("[ \\t]{9,}");

  /** What a line tells, and whether the line after it belongs to it. */
  public record Read(Frame frame, boolean two) {}

  private static final String PLACE =
      "((?:[A-Za-z]:)?[^\\s()\"'`:][^()\"'`:]{0,300}\\.[A-Za-z]\\w{0,5}):(\\d{1,7})";

  // at org.skerrow.Fares.priced(Fares.java:12) ~[fares.jar:1.2]
  private static final Pattern JVM =
      Pattern.compile(
          "^at (?:[\\w.-]{0,80}(?:@[\\w.+-]{1,40})?/{1,2})?([^\\s/(][^(]*)\\(([\\w$-]+\\.(?:java|kt|kts|scala|groovy|clj|cljc))?:?(\\d+)?"
              + "(?:Native Method|Unknown Source|<generated>|SourceFile|R8\\$\\$SyntheticClass|Hidden Source)?(?::\\d+)?\\).*$");
  // at Skerrow.Fares.Priced(Int32 id) in /src/Fares.cs:line 12, in :line, and Mono's [0x0] in <…>:0
  private static final Pattern NET =
      Pattern.compile(
          "^(?:at|en|bei|à|w|in) ([\\w.<>`+,\\[\\]|$ ]{1,300}?) ?\\(([^()]*(?:\\([^()]*\\)[^()]*)*)\\)(?: \\[0x\\w+\\])?(?: (?:in|at) (.{1,300}?)(?::line |:ligne |:Zeile |:)(\\d+))?\\s*$");
  // at priced (/app/src/fares.js:12:3), at async Fares.priced [as x] (file:///app/fares.mjs:12:3),
  // at /app/fares.js:12:3
  private static final Pattern V8 =
      Pattern.compile(
          "^at (?:async )?(?:new )?(?:(.{1,200}?) )?\\(?((?:[A-Za-z]:|[a-z+-]{2,20}:(?:///?)?(?:[A-Za-z]:)?)?(?:[^:()]|\\([\\w.@-]{1,40}\\)(?=/)){1,200}(?::\\d{2,5}/[^:()]{1,200})?):(\\d+)(?::\\d+)?\\)?$");
  // priced@http://kiosk/app.js:12:3
  private static final Pattern GECKO =
      Pattern.compile(
          "^([\\w$./<>*\\[\\]-]{0,200})@((?:https?|file|webpack(?:-internal)?|resource|app)://.{1,300}?|/.{1,300}?|[A-Za-z]:[\\\\/].{1,300}?):(\\d+)(?::\\d+)?$");
  private static final Pattern PYTHON =
      Pattern.compile("^File \"([^\"]{1,400})\", line (\\d+)(?:, in (.{1,200}))?$");
  // fares.py:12: in priced, fares.py:12: KeyError, fares.py:12:
  private static final Pattern PYTEST =
      Pattern.compile(
          "^((?:[A-Za-z]:)?[^\\s:\"'()]{1,300}\\.pyx?):(\\d+): ?(?:in (\\S.{0,150})|[\\w.]{0,100})$");
  // fares.rb:12:in 'Fares#priced', # ./fares.rb:12:in `block in priced', fares.rb:12
  private static final Pattern RUBY =
      Pattern.compile(
          "^(?:from |# |\\d+: from )?((?:[A-Za-z]:)?[^\\s:\"'()]{0,300}\\.(?:rb|rake|cr)|<internal:[^>]+>):(\\d+)(?::\\d+)?(?::? ?in [`'](.{1,200}?)'| in '(.{1,200}?)')?(?:: .*)?$");
  // #0 /app/src/Fares.php(12): Skerrow\Fares->priced(Array), #1 [internal function]: …
  private static final Pattern PHP =
      Pattern.compile(
          "^#\\d+ (?:(.{1,300}?)\\((\\d+)\\)|\\[internal function\\]): ([\\w\\\\{}:>-][\\w\\\\{}:> -]*)(?:\\(.*)?$");
  // in /app/src/Fares.php:12, in Fares.php on line 12
  private static final Pattern PHP_PLACE =
      Pattern.compile(
          "^(?:in |at )?([^\\s:\"'()]{1,300}\\.(?:php|phtml))(?::| on line |\\()(\\d+)\\)?$");
  // #0      Fares.priced (package:skerrow/fares.dart:12:3)
  private static final Pattern DART =
      Pattern.compile(
          "^#\\d+ +(\\S.{0,200}?) \\(((?:package|dart|file|org-dartlang-\\w+):[^\\s()]{1,300}?\\.dart)(?::(\\d+))?(?::\\d+)?\\)$");
  private static final Pattern DART_SHORT =
      Pattern.compile(
          "^((?:package:|[\\w/]+/)[^\\s()]{1,300}?\\.dart) (\\d+):\\d+ +(\\S.{0,200})$");
  // #1 0x4f in skerrow::Fares::priced(int) /src/fares.cc:12:3, #1  priced (id=1) at fares.c:12, #0
  // priced fares.cc:12 (bin+0x1)
  private static final Pattern NATIVE =
      Pattern.compile(
          "^#\\d+ +(?:0x[0-9a-fA-F]+ +(?:in +)?)?(\\S.{0,300}?)(?: +(?:at +)?((?:[A-Za-z]:)?[/\\\\]?[^\\s():]{1,300}\\.[A-Za-z+]{1,4}):(\\d+)(?::\\d+)?)?(?: *\\([^()]*\\+0x[0-9a-f]+\\))?(?: *\\(BuildId.*\\))?$");
  // 4: skerrow::fares::priced, with "at ./src/fares.rs:12:5" below
  private static final Pattern RUST =
      Pattern.compile(
          "^\\d+: +(?:0x[0-9a-f]+ - )?((?:<?[A-Za-z_{<][\\w<>{}#&*', \\[\\]();-]*::|__?\\w+|main|rust_\\w+)\\S.{0,300})$");
  private static final Pattern RUST_PLACE =
      Pattern.compile("^at +(\\S{1,300}\\.\\w{1,4}):(\\d+)(?::\\d+)?$");
  // skerrow.example/fares.(*Table).Priced(0xc000…), with "/src/fares.go:12 +0x1d" below
  private static final Pattern GO =
      Pattern.compile(
          "^(?:created by )?(panic(?=\\()|[\\w./@~%-]{1,200}\\.(?:\\(\\*?[\\w\\[\\].]+\\)\\.)?[\\w.]+(?:\\[\\.\\.\\.\\])?)(?:\\(.{0,400}\\))?(?: in goroutine \\d+)?$");
  private static final Pattern GO_PLACE =
      Pattern.compile("^(\\S.{0,300}\\.(?:go|s)):(\\d+)(?: \\+0x[0-9a-f]+)?$");
  // (skerrow 0.1.0) lib/fares.ex:12: Fares.priced/1
  private static final Pattern ELIXIR =
      Pattern.compile(
          "^(?:\\(([\\w]+)(?: [\\w.-]+)?\\) )?([^\\s():]{1,200}\\.(?:ex|exs|erl)):(\\d+): (\\S.{0,200}?)(?:/\\d+.*)?$");
  // 3   Kiosk  0x0000000104 Fares.priced(for:) + 123, and " 0 [ra] 0x… Fares.priced() + 12 in Kiosk
  // at /src/Fares.swift:12:5"
  private static final Pattern APPLE =
      Pattern.compile(
          "^\\d+[ \\t]+(?:\\[\\w+\\] |(?!0x)(\\S{1,100})[ \\t]+)?0x[0-9a-fA-F]+[ \\t]+(?:in )?(\\S.{0,200}?) \\+ \\d+(?: in \\S+)?(?: (?:at |\\()(\\S{1,300}?):(\\d+)(?::\\d+)?\\)?)?$");
  private static final Pattern SYSTEM =
      Pattern.compile(
          ".*\\.dylib|dyld|XCTest\\w*|Foundation|CoreFoundation|UIKit\\w*|AppKit|SwiftUI|Testing|GraphicsServices|QuartzCore|CFNetwork|lib[\\w.+-]+");
  // [1] priced(id::Int64), with "@ Fares ~/src/fares.jl:12" below
  private static final Pattern JULIA = Pattern.compile("^\\[\\d+\\] (\\S.{0,200})$");
  private static final Pattern JULIA_PLACE =
      Pattern.compile("^@ (?:[\\w.]+ )?(\\S{1,300}):(\\d+)(?: \\[inlined\\])?$");
  // fares.lua:12: in function 'priced'
  private static final Pattern LUA =
      Pattern.compile(
          "^([^\\s:]{1,300}\\.lua):(\\d+): in (?:(?:local|upvalue|field|method|function|global) ?(?:function )?)['<]?([^'>]{1,200})['>]?$");
  // Fares::priced(12) called at lib/Fares.pm line 12
  private static final Pattern PERL =
      Pattern.compile(
          "^(?:at |([\\w:]{1,200})\\(.{0,400}\\) called at )(\\S{1,300}\\.(?:p[lm]|t)) line (\\d+)\\.?$");
  // Called from Fares.priced in file "fares.ml", line 12, characters 1-5
  private static final Pattern OCAML =
      Pattern.compile(
          "^(?:Raised|Called|Re-raised) (?:at|from|by primitive operation at) (?:([\\w.]{1,200}) in )?file \"([^\"]{1,300})\"(?: \\(inlined\\))?, line (\\d+).*$");
  // priced, called at src/Fares.hs:12:5 in main:Fares
  private static final Pattern HASKELL =
      Pattern.compile("^(\\S{1,100}), called at (\\S{1,300}\\.hs):(\\d+):\\d+ in \\S+$");
  // (procedure "priced" line 3)
  private static final Pattern TCL =
      Pattern.compile("^\\(procedure \"([^\"]{1,200})\" line (\\d+)\\)$");
  // 3. └─fares::priced(id) at R/fares.R:12:3
  private static final Pattern R_LANG =
      Pattern.compile(
          "^\\d+\\. [^\\w]{0,20}([\\w.:]{1,200})\\(.{0,300}?\\)(?: at (\\S{1,300}?):(\\d+)(?::\\d+)?)?$");
  // at Get-Fare, /src/fares.ps1: line 12
  private static final Pattern POWERSHELL =
      Pattern.compile("^at (.{1,200}?), ?(\\S.{0,300}\\.psm?1|<No file>): ?(?:line )?(\\d+)$");
  // in function  fares:priced/1 (src/fares.erl, line 12)
  private static final Pattern ERLANG =
      Pattern.compile(
          "^(?:in (?:call from |function ) *)?([\\w:']{1,200})/\\d+ \\((\\S{1,300}\\.\\w{1,6}), line (\\d+)\\)$");
  // {fares,priced,2,[{file,"src/fares.erl"},{line,12}]}
  private static final Pattern ERLANG_TERM =
      Pattern.compile(
          "\\{'?([\\w.]{1,100})'?,'?([\\w/-]{1,100}?)'?,(?:\\d+|\\[(?:[^\\[\\]]|\\[[^\\[\\]]{0,80}\\]){0,200}\\]),\\s*\\[\\{file,\\s?\"([^\"]{1,300})\"\\},\\s*\\{line,(\\d+)\\}");
  // Whatever names a function with where in it: raised : Fares.priced (core+0x1f), in routine
  // Fares.priced at offset 12, called from Fares::priced + 12
  private static final Pattern GENERAL =
      Pattern.compile(
          "^(?:[\\w#>*-]{1,20}(?: [a-z]{1,12}){0,3} {0,4}[:>-]{0,2} {1,4})?([A-Za-z_]\\w*(?:(?:\\.|::|->|#|/)[A-Za-z_]\\w*){1,8})(?:\\([^()]{0,80}\\))?,? (?:\\([^()\\s]{0,80}\\+ ?(?:0x)?[0-9a-fA-F]+\\)|(?:at )?(?:offset|line|pc|address|addr|\\+) ?#?(?:0x)?[0-9a-fA-F]+)(?!\\w).{0,200}$");
  // at=Fares.priced, "where": "Fares.priced"
  private static final Pattern VALUED =
      Pattern.compile(
          "(?:^|[\\s{,;(])[\"']?(?:at|where|in|func|function|method|caller|location|site|origin|routine|procedure|handler|raised_in|thrown_in)[\"']?\\s?[:=]\\s?[\"']?([A-Za-z_]\\w*(?:(?:\\.|::|->|#)[A-Za-z_]\\w*)+)(?![\\w./:-])");
  // fault in priced (fares.c:12)
  private static final Pattern IN_NAMED =
      Pattern.compile(
          "\\bin ([A-Za-z_][\\w:.~]{1,150})(?:\\(\\))? \\(([\\w./\\\\-]{1,200}\\.[A-Za-z]\\w{0,4}):(\\d+)\\)");
  // received error: fares:priced/2: Arithmetic: evaluation error
  private static final Pattern WITH_ARITY =
      Pattern.compile("(?:^|\\s)([a-z]\\w{0,80}):([a-z]\\w{0,80})/\\d{1,2}: ");
  // in file fares.p, line 12; at fares.c and line: 12
  private static final Pattern IN_WORDS =
      Pattern.compile(
          "(?i:\\b(?:in|at):? (?:file:? )?)[\"'`]?([\\w./\\\\-]{1,200}\\.[A-Za-z]\\w{0,5})[\"'`]?,? (?:and |on )?(?i:line):? ?#?(\\d{1,7})\\b");
  // fares.c:12: priced: Assertion
  private static final Pattern NATIVE_NAMED =
      Pattern.compile(
          "(?:^|\\s)((?:[A-Za-z]:)?[^\\s:()]{1,200}\\.(?:c|cc|cpp|cxx|h|hpp|rs|adb|f90|m|mm|cu|d|nim|zig|pas)):(\\d+):? (?:[\\w:&*<>]{1,60} )?([A-Za-z_][\\w:~]{1,150})(?:\\([^()]{0,200}\\))?: ");
  // (from function `pay' in file test/kiosk.bash, line 12,
  private static final Pattern BATS =
      Pattern.compile(
          "^\\(?(?:from function [`'](.{1,200}?)' )?in (?:test )?file (\\S{1,300}), line (\\d+)[,)]?$");
  private static final Pattern LOC = Pattern.compile("^Loc: \\[(\\S{1,300})\\((\\d+)\\)\\]$");
  // The name of the function may follow the place.
  private static final Pattern PLAIN =
      Pattern.compile(
          "^(?:at |in |from |on |--> |=> |> |❯ |\\| |\\[|[Ll]ocation: +)?(?:(\\w[\\w.:<>$#-]{0,150}) )?\\(?"
              + PLACE
              + "(?::\\d+)?[)\\]]?(?:[,:]? ?(?:in |- |at )?[`'(]?([A-Za-z_][\\w.:<>$#\\\\-]{0,150})['`)]?(?:\\(\\))?)?$");

  private FrameReader() {}

  /**
   * @param raw a line of a text, with its indentation
   * @param next the line after it; null at the end
   * @return null when the line names no place in code
   */
  public static @Nullable Read read(String raw, @Nullable String next) {
    if (raw.length() > MAX_LINE || raw.length() < 5) {
      return null;
    }
    String line = withoutGaps(raw.strip());
    if (line.length() < 5) {
      return null;
    }
    if (line.indexOf("{file,") > 0) {
      Matcher term = ERLANG_TERM.matcher(line);
      if (term.find()) {
        return one(term.group(1) + "." + term.group(2), term.group(3), number(term.group(4)));
      }
    }
    Read found = byBeginning(line, next);
    return found == null ? ImageStacks.read(line) : found;
  }

  /** Each of many blanks is one more place where a spelling might begin. */
  private static String withoutGaps(String line) {
    return line.contains(MANY_BLANKS) ? GAPS.matcher(line).replaceAll(" ") : line;
  }

  private static @Nullable Read byBeginning(String line, @Nullable String next) {
    Read sent = ImageStacks.sent(line);
    if (sent != null) {
      return sent;
    }
    return switch (line.charAt(0)) {
      case 'a' -> line.startsWith("at ") ? at(line) : other(line, next);
      case '#' -> numbered(line, next);
      case 'F' -> line.startsWith("File \"") ? python(line) : other(line, next);
      case '(' -> bracket(line);
      case '[' -> julia(line, next);
      case '0', '1', '2', '3', '4', '5', '6', '7', '8', '9' -> counted(line, next);
      default -> other(line, next);
    };
  }

  private static @Nullable Read at(String line) {
    if (line.endsWith(")") || line.endsWith("]")) {
      Matcher jvm = JVM.matcher(line);
      if (jvm.matches() && line.lastIndexOf('(') > 3 && isJvm(jvm, line)) {
        return one(jvm.group(1), text(jvm.group(2)), number(jvm.group(3)));
      }
    }
    if (mayBeV8(line)) {
      Matcher v8 = V8.matcher(line);
      if (v8.matches() && !v8.group(2).endsWith(".cs")) {
        return one(
            withoutAnonymous(text(v8.group(1))), withoutQuery(v8.group(2)), number(v8.group(3)));
      }
    }
    if (line.endsWith("(<anonymous>)") || line.endsWith("(native)") || line.endsWith("(index 0)")) {
      return one(line.substring(3, line.indexOf('(')).strip(), "node:internal", 0);
    }
    Matcher net = NET.matcher(line);
    if (net.matches() && net.group(1).indexOf('.') > 0) {
      return one(net.group(1), text(net.group(3)), number(net.group(4)));
    }
    Matcher power = POWERSHELL.matcher(line);
    if (power.matches()) {
      return one(block(power.group(1)), power.group(2), number(power.group(3)));
    }
    Matcher perl = PERL.matcher(line);
    if (perl.matches()) {
      return one("", perl.group(2), number(perl.group(3)));
    }
    Matcher php = PHP_PLACE.matcher(line);
    if (php.matches()) {
      return one("", php.group(1), number(php.group(2)));
    }
    return plain(line);
  }

  /** Whether it ends with a number behind a colon, and is no long sentence. */
  private static boolean mayBeV8(String line) {
    int end = line.endsWith(")") ? line.length() - 1 : line.length();
    int digits = end;
    while (digits > 0 && Character.isDigit(line.charAt(digits - 1))) {
      digits--;
    }
    return digits < end
        && digits > 3
        && line.charAt(digits - 1) == ':'
        && line.chars().filter(c -> c == ' ').count() < MOST_BLANKS;
  }

  /** A script without a function around, or a line of it, is no name. */
  private static String block(String name) {
    return name.startsWith("<") || name.indexOf(' ') >= 0 ? "" : name;
  }

  private static boolean isJvm(Matcher jvm, String line) {
    return jvm.group(2) != null
        || jvm.group(3) != null
        || line.contains("(Native Method)")
        || line.contains("(Unknown Source)")
        || line.contains("(<generated>)")
        || line.contains("(SourceFile");
  }

  /** What is called the class of a function where it has none of its own. */
  private static final Set<String> NOBODY =
      Set.of("Object", "Module", "Proxy", "VueComponent", "Context", "global", "window", "exports");

  private static String withoutAnonymous(String function) {
    String name = function.startsWith("async ") ? function.substring(6) : function;
    int as = name.indexOf(" [as ");
    if (as > 0 && name.endsWith("]")) {
      // The name by which it was called is not its own.
      name = name.substring(0, as);
    }
    name = name.startsWith("new ") ? name.substring(4) : name;
    if (name.equals("<anonymous>")
        || name.endsWith(".<anonymous>")
        || name.equals("eval")
        || name.endsWith(".eval")) {
      return "";
    }
    int dot = name.indexOf('.');
    return dot > 0 && NOBODY.contains(name.substring(0, dot)) ? name.substring(dot + 1) : name;
  }

  private static @Nullable Read numbered(String line, @Nullable String next) {
    Matcher php = PHP.matcher(line);
    if (php.matches()) {
      return one(php.group(3), text(php.group(1)), number(php.group(2)));
    }
    Matcher dart = DART.matcher(line);
    if (dart.matches()) {
      return one(dart.group(1), dart.group(2), number(dart.group(3)));
    }
    if (line.length() > 2 && Character.isDigit(line.charAt(1))) {
      Matcher code = NATIVE.matcher(line);
      if (code.matches()) {
        Matcher place =
            code.group(2) != null || next == null ? null : RUST_PLACE.matcher(next.strip());
        if (place != null && place.matches()) {
          return two(code.group(1), place);
        }
        return one(code.group(1), text(code.group(2)), number(code.group(3)));
      }
      return null;
    }
    return ruby(line);
  }

  private static @Nullable Read python(String line) {
    Matcher python = PYTHON.matcher(line);
    if (python.matches()) {
      return one(module(text(python.group(3))), python.group(1), number(python.group(2)));
    }
    return null;
  }

  private static String module(String function) {
    return function.equals("<module>")
            || function.equals("<lambda>")
            || function.equals("top-level template code")
            || function.startsWith("block ")
        ? ""
        : function;
  }

  private static @Nullable Read bracket(String line) {
    Matcher elixir = ELIXIR.matcher(line);
    if (elixir.matches()) {
      String app = text(elixir.group(1));
      String path = elixir.group(2);
      // What other applications than ours bring is told by their name alone.
      return one(
          elixir.group(4),
          app.isEmpty() ? path : "app:" + app + "/" + path,
          number(elixir.group(3)));
    }
    Matcher tcl = TCL.matcher(line);
    if (tcl.matches()) {
      return one(tcl.group(1), "", number(tcl.group(2)));
    }
    Matcher bats = BATS.matcher(line);
    return bats.matches() ? one(text(bats.group(1)), bats.group(2), number(bats.group(3))) : null;
  }

  private static @Nullable Read julia(String line, @Nullable String next) {
    if (next == null) {
      return null;
    }
    Matcher julia = JULIA.matcher(line);
    if (julia.matches()) {
      Matcher place = JULIA_PLACE.matcher(next.strip());
      if (place.matches()) {
        return two(julia.group(1), place);
      }
    }
    return null;
  }

  private static @Nullable Read counted(String line, @Nullable String next) {
    Matcher rust = RUST.matcher(line);
    if (rust.matches()) {
      Matcher place = next == null ? null : RUST_PLACE.matcher(next.strip());
      return place != null && place.matches()
          ? two(rust.group(1), place)
          : line.contains("::") ? one(rust.group(1), "", 0) : null;
    }
    Matcher apple = APPLE.matcher(line);
    if (apple.matches()) {
      String path = text(apple.group(3));
      String module = text(apple.group(1));
      // Of what is not ours, the binary tells it.
      return one(
          apple.group(2),
          path.isEmpty() && SYSTEM.matcher(module).matches() ? "/usr/lib/" + module : path,
          number(apple.group(4)));
    }
    Matcher r = R_LANG.matcher(line);
    if (r.matches()) {
      return one(r.group(1), text(r.group(2)), number(r.group(3)));
    }
    return line.contains(": from ") ? ruby(line) : AnyPlace.read(line);
  }

  private static @Nullable Read ruby(String line) {
    Matcher ruby = RUBY.matcher(line);
    if (!ruby.matches()) {
      return null;
    }
    String function = ruby.group(3) == null ? text(ruby.group(4)) : ruby.group(3);
    return one(rubyName(function), ruby.group(1), number(ruby.group(2)));
  }

  /** Blocks and steps of scenarios have no names. */
  private static String rubyName(String function) {
    return function.isEmpty() || "<\"/".indexOf(function.charAt(0)) >= 0 ? "" : function;
  }

  private static @Nullable Read other(String line, @Nullable String next) {
    if (next != null && (next.indexOf(".go:") > 0 || next.indexOf(".s:") > 0)) {
      Matcher place = GO_PLACE.matcher(next.strip());
      Matcher go = place.matches() ? GO.matcher(line) : null;
      if (go != null && go.matches()) {
        return two(go.group(1), place);
      }
    }
    int colon = line.indexOf(':');
    if (colon < 0 && line.indexOf(" line ") < 0) {
      return general(line);
    }
    if (line.indexOf(".py") > 0) {
      Matcher pytest = PYTEST.matcher(line);
      if (pytest.matches()) {
        return one(module(text(pytest.group(3))), pytest.group(1), number(pytest.group(2)));
      }
    }
    if (line.indexOf('@') >= 0) {
      Matcher gecko = GECKO.matcher(line);
      if (gecko.matches()) {
        return one(
            text(gecko.group(1)).replaceAll("[/<*]+$", ""), gecko.group(2), number(gecko.group(3)));
      }
    }
    if (line.indexOf(".rb") > 0 || line.startsWith("<internal:") || line.indexOf(".cr:") > 0) {
      Read ruby = ruby(line);
      if (ruby != null) {
        return ruby;
      }
    }
    if (line.indexOf(".ex") > 0 || line.indexOf(".erl") > 0 || line.indexOf(", line ") > 0) {
      Matcher elixir = ELIXIR.matcher(line);
      if (elixir.matches()) {
        return one(elixir.group(4), elixir.group(2), number(elixir.group(3)));
      }
      Matcher erlang = ERLANG.matcher(line);
      if (erlang.matches()) {
        return one(erlang.group(1).replace(':', '.'), erlang.group(2), number(erlang.group(3)));
      }
    }
    return rare(line);
  }

  private static @Nullable Read rare(String line) {
    if (line.startsWith("Loc: [")) {
      Matcher loc = LOC.matcher(line);
      if (loc.matches()) {
        return one("", loc.group(1), number(loc.group(2)));
      }
    }
    if (line.indexOf(".lua:") > 0) {
      Matcher lua = LUA.matcher(line);
      if (lua.matches()) {
        return one(lua.group(3), lua.group(1), number(lua.group(2)));
      }
    }
    if (line.indexOf(" line ") > 0) {
      Matcher perl = PERL.matcher(line);
      if (perl.matches()) {
        return one(text(perl.group(1)), perl.group(2), number(perl.group(3)));
      }
      Matcher ocaml = OCAML.matcher(line);
      if (ocaml.matches()) {
        return one(text(ocaml.group(1)), ocaml.group(2), number(ocaml.group(3)));
      }
    }
    if (line.indexOf(".dart ") > 0) {
      Matcher dart = DART_SHORT.matcher(line);
      if (dart.matches()) {
        return one(dart.group(3), dart.group(1), number(dart.group(2)));
      }
    }
    if (line.indexOf(", called at ") > 0) {
      Matcher haskell = HASKELL.matcher(line);
      if (haskell.matches()) {
        return one(haskell.group(1), haskell.group(2), number(haskell.group(3)));
      }
    }
    if (line.indexOf(".php") > 0) {
      Matcher php = PHP_PLACE.matcher(line);
      if (php.matches()) {
        return one("", php.group(1), number(php.group(2)));
      }
    }
    return plain(line);
  }

  private static @Nullable Read plain(String line) {
    if (line.length() > 400) {
      return null;
    }
    Matcher plain = hasNumber(line) ? PLAIN.matcher(line) : null;
    if (plain == null
        || !plain.matches()
        || plain.group(2).contains("://")
        || plain.group(2).indexOf(' ') >= 0) {
      return general(line);
    }
    String function = plain.group(1) == null ? text(plain.group(4)) : plain.group(1);
    return one(function, plain.group(2), number(plain.group(3)));
  }

  /** Whether a number stands behind a colon. */
  private static boolean hasNumber(String line) {
    int colon = line.indexOf(':');
    while (colon > 0 && colon + 1 < line.length()) {
      char c = line.charAt(colon + 1);
      if (c >= '0' && c <= '9') {
        return true;
      }
      colon = line.indexOf(':', colon + 1);
    }
    return false;
  }

  private static String withoutQuery(String path) {
    int query = path.indexOf('?');
    return query > 0 ? path.substring(0, query) : path;
  }

  /**
   * A place that a sentence or a list of values names: {@code at=Dock.assign}, {@code "where":
   * "Dock.assign"}, {@code fault in thruster_set (thruster.c:12)}, {@code thruster.c:12:
   * thruster_set:}.
   */
  static @Nullable Frame within(String line) {
    if (line.length() > MAX_LINE) {
      return null;
    }
    if (line.indexOf('=') > 0 || line.indexOf(':') > 0) {
      Matcher valued = VALUED.matcher(line);
      if (valued.find()) {
        return Frame.of(valued.group(1), "", 0);
      }
    }
    int colon = line.indexOf(':');
    if (colon < 0) {
      return inWords(line);
    }
    Matcher counted = line.indexOf('/') > colon ? WITH_ARITY.matcher(line) : null;
    if (counted != null && counted.find()) {
      return Frame.of(counted.group(1) + "." + counted.group(2), "", 0);
    }
    Matcher named = line.indexOf("in ") >= 0 ? IN_NAMED.matcher(line) : null;
    if (named != null && named.find()) {
      return Frame.of(named.group(1), named.group(2), number(named.group(3)));
    }
    Matcher native2 = NATIVE_NAMED.matcher(line);
    return native2.find()
        ? Frame.of(native2.group(3), native2.group(1), number(native2.group(2)))
        : inWords(line);
  }

  private static @Nullable Frame inWords(String line) {
    if (!line.contains("line") && !line.contains("Line")) {
      return null;
    }
    Matcher worded = IN_WORDS.matcher(line);
    return worded.find() ? Frame.of("", worded.group(1), number(worded.group(2))) : null;
  }

  private static @Nullable Read general(String line) {
    Read any = AnyPlace.read(line);
    if (any != null) {
      return any;
    }
    if (line.length() > 300 || line.indexOf('+') < 0 && line.indexOf("offset ") < 0) {
      return null;
    }
    Matcher general = GENERAL.matcher(line);
    return general.matches() ? one(general.group(1), "", 0) : null;
  }

  private static Read one(String function, String path, int line) {
    return new Read(Frame.of(function, path, line), false);
  }

  private static Read two(String function, Matcher place) {
    return new Read(Frame.of(function, place.group(1), number(place.group(2))), true);
  }

  private static String text(@Nullable String group) {
    return group == null ? "" : group;
  }

  private static int number(@Nullable String group) {
    return group == null || group.length() > 9 ? 0 : Integer.parseInt(group);
  }
}
