package org.vinecellar.core.triage.reading;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What stands between two errors of a text, and tells how they belong together.
 *
 * @param rest of the line
 * @param always whether a section begins whatever came before
 */
record Link(Kind kind, String rest, boolean always) {
  /** How what follows belongs to what came before. */
  enum Kind {
    /** It caused it. */
    INNER,
    /** It was caused by it. */
    OUTER,
    /** It went wrong while the first one was cleared up. */
    SUPPRESSED,
    /** It is another stack of the same report. */
    SECTION,
    /** It is what programs printed, and no evidence. */
    OUTPUT,
    /** Frames follow of the error around this one. */
    FRAMES_OF_OUTER,
    /** Frames follow of an error inside that was named before. */
    FRAMES_OF_INNER
  }

  /** A spelling, with who writes it. */
  private record Form(String starts, List<String> needs, Kind kind, Pattern pattern) {
    static Form of(String starts, Kind kind, String regex) {
      return of(starts, List.of(), kind, regex);
    }

    /** It is in a line only with one of these. */
    static Form of(String starts, List<String> needs, Kind kind, String regex) {
      return new Form(starts, needs, kind, Pattern.compile(regex));
    }

    boolean mayBe(String line) {
      if (starts.indexOf(line.charAt(0)) < 0) {
        return false;
      }
      for (String need : needs) {
        if (line.contains(need)) {
          return true;
        }
      }
      return needs.isEmpty();
    }
  }

  private static final List<Form> FORMS =
      List.of(
          // JVM, PHPUnit, anyhow of Rust, vitest; RSpec with its marks around; Jest
          Form.of(
              "Cc#[(wWRr-",
              List.of("ause"),
              Kind.INNER,
              "^(?:# )?-*[ (\\[]*(?:[Cc]aused by|Cause|cause|\\[cause\\]|[Ww]ith cause|Root cause|root cause)\\]?:?(?: ---)?(?::? ?(.*))$"),
          // Wrapped by: root first on the JVM; "Next" of PHP
          Form.of("WN", Kind.OUTER, "^(?:Wrapped by|Next(?= [A-Z\\\\][\\w\\\\]*:)):? ?(.*)$"),
          Form.of(
              "DT",
              Kind.OUTER,
              "^(?:During handling of the above exception, another exception occurred|The above exception was the direct cause of the following exception):?()$"),
          Form.of("S", Kind.SUPPRESSED, "^Suppressed: (.*)$"),
          // .NET, one line each
          Form.of("-", Kind.INNER, "^-{3,5}> (?:\\(Inner Exception #\\d+\\) ?)?(.*?)(?:<---)?$"),
          Form.of(
              "-",
              Kind.FRAMES_OF_OUTER,
              "^--- (?:End of inner exception stack trace|Fin de la trace|Ende der internen).*()$"),
          Form.of(
              "-", Kind.FRAMES_OF_INNER, "^-{3,5} Inner Stack Trace(?: #\\d+ \\(.*\\))? ?-*()$"),
          Form.of("-", Kind.INNER, "^-{4} ((?:[\\w$]+\\.)+[A-Z]\\w+ ?: .*)$"),
          Form.of("-", Kind.FRAMES_OF_INNER, "^--([\\w.]+(?:Exception|Error))$"),
          // Races and memory
          Form.of(
              "PRrWwAafpGgTDILUM",
              List.of(
                  " at 0x",
                  " by thread",
                  "oroutine ",
                  "created by",
                  "Location is ",
                  " leak of ",
                  "Uninitialized value",
                  "Mutex M",
                  "As if synchronized"),
              Kind.SECTION,
              "^((?:Previous |Atomic )?(?:[Rr]ead|[Ww]rite|atomic \\w+)(?: of size \\d+)? at 0x.*|freed by thread.*|previously allocated by.*|Goroutine \\d+ \\(.*created at:.*|goroutine \\d+ \\[.*\\]:|Thread T\\d+ .*created by.*|Location is .*|(?:Direct|Indirect) leak of .*|Uninitialized value was created.*|Mutex M\\d+ .*|As if synchronized.*)$"),
          // Another process of Elixir ended
          Form.of(
              "*",
              Kind.INNER,
              "^\\*\\* \\(EXIT(?: from #PID<[\\d.]+>)?\\) an exception was raised:()$"),
          // What was not to be thrown, as remarks of TAP tell it
          Form.of("d", Kind.INNER, "^died: (.*)$"),
          // Raku, of what was awaited
          Form.of("D", Kind.INNER, "^Died with the exception:()$"),
          // Captured output
          Form.of(
              "->*=SCOLscoA",
              List.of("aptured", "tandard", "td", "utput", "og", "eardown failed:"),
              Kind.OUTPUT,
              "^(?:-+ ?>{0,3} ?(?:[Cc]aptured|begin captured|[Ss]tandard|[Ss]tdout|[Ss]tderr).*|>> begin captured.*|={2,} ?(?:[Cc]aptured|[Oo]utput|[Ll]ogs?(?! ={10,}$)|[Ss]tdout|[Ss]tderr)\\b.*|(?:Captured (?:stdout|stderr|logs?)|Standard (?:Output|Error)(?: Messages)?|Std(?:out|err)|stdout|stderr|Console [Oo]utput|Log output|Logs|Output of the (?:test|command))(?: call| setup| teardown)?:?|Also (?:parent )?(?:suite )?teardown failed:.*)()$"));

  private static final Pattern STARTS =
      Pattern.compile(
          "^(?:Exception in thread|Uncaught|Unhandled|panic: |fatal error: |thread '|PHP Fatal).*");

  /** With these a link may begin. */
  private static final String FIRSTS = "dCc#[(wWNDTS-PRrAafpgGLI>*=OsMU";

  /** Reads a line; null when it is no link. */
  static @Nullable Link read(String line) {
    if (FIRSTS.indexOf(line.charAt(0)) < 0 || line.length() > 4_000) {
      return null;
    }
    for (Form form : FORMS) {
      if (!form.mayBe(line)) {
        continue;
      }
      Matcher matcher = form.pattern.matcher(line);
      if (matcher.matches() && !isProse(form, line)) {
        String rest = matcher.group(1) == null ? "" : matcher.group(1);
        return new Link(form.kind, rest, !line.startsWith("goroutine"));
      }
    }
    return null;
  }

  /** "Cause" and the like begin sentences too. */
  private static boolean isProse(Form form, String line) {
    return form.kind == Kind.INNER
        && (line.startsWith("Cause")
            || line.startsWith("cause")
            || line.startsWith("with")
            || line.startsWith("With"))
        && !line.startsWith("Caused by")
        && !line.startsWith("caused by")
        && line.indexOf(':') < 0
        && line.length() > 9;
  }

  /** Whether an error begins here for certain. */
  static boolean startsError(String line) {
    return STARTS.matcher(line).matches();
  }
}
