package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** Checks that name nothing but what they compare, or what somebody wrote beside them. */
final class CheckForms {
  /** What was run, and ended with something else than nought. */
  private static final String COMMAND =
      "(?i:command|process|script) failed with (?:an? )?(?:exit )?(?:code|status):? -?\\d+: ?[\"'`]?([^\\n]{3,200}?)[\"'`]?$"
          + "|(?i:command|process|script) [\"'`]([^\\n]{3,200}?)[\"'`] (?:failed|returned non-zero|exited with|terminated with|returned exit)";

  /** Expressions, which may be as common as {@code result}. */
  static final List<Form> EXPRESSIONS =
      List.of(
          Form.of(
              Kind.EXPRESSION,
              "assertion failed: |assertion `|Assertion `|Assertion '|ssertion failed",
              "assertion failed: ((?!`?\\(?left)[^\\n:]{3,200}?)(?:$|, | at )|Assertion [`']([^'\\n]{3,200})' failed"),
          Form.of(
              Kind.EXPRESSION,
              "alue of: |Expected equality|Expected: (",
              "[Vv]alue of ?: ([^\\n]{2,200})|Expected equality of these values:\\n\\s*([^\\n]{1,200}\\n(?:\\s+Which is:[^\\n]*\\n)?\\s*[^\\n]{1,200})|Expected: (\\([^\\n]{2,200}), actual:"),
          Form.of(
              Kind.EXPRESSION,
              "That(",
              "\\b(?:Assert\\.That|assertThat|AssertThat)\\(\\(?(?:\\(\\) => )?([A-Za-z_][^,\\n]{2,160}?)(?:, |\\)\\.|\\)$)"),
          Form.of(
              Kind.EXPRESSION,
              "Expression: | condition ",
              "^\\s*(?:\\d+: +)?(?:Expression: |condition +=) ?(.{3,200})$"),
          Form.of(
              Kind.EXPRESSION, "expected: (", "^\\s*expected: (\\((?!\\w+\\))[^\\n]{3,200}\\))$"),
          // As Lisp shows it
          Form.of(
              Kind.EXPRESSION,
              "evaluated to| to be true.|(should",
              "\\(\\(?should(?:-not)?\\s+(\\([^\\n]{3,200}\\))\\)\\s+:form\\b|^(\\([^\\n]{3,200}\\))\\s+evaluated to\\b|\\bExpect (\\([^\\n]{3,200}\\)) to be (?:true|false)\\.$"),
          Form.of(Kind.EXPRESSION, ") failed", "\\bassert\\((.{2,200}?)\\) failed"),
          Form.of(
              Kind.EXPRESSION, "contract violation", "^([\\w!?*<>=/.-]{2,80}): contract violation"),
          Form.of(Kind.EXPRESSION, "Check failed: ", "Check failed: ([^\\n]{2,200})$"),
          Form.of(Kind.EXPRESSION, "Actual ", "^\\s*Actual\\s+\\(([^\\n]{2,160})\\)\\s*: "),
          Form.of(
              Kind.EXPRESSION,
              "returned FALSE",
              "^[^\\n']{0,100}'([^'\\n]{2,160})' returned FALSE"),
          Form.of(Kind.EXPRESSION, "has failed", "\\bcheck (.{2,200}?) has failed"),
          Form.of(
              Kind.EXPRESSION,
              "REQUIRE|CHECK",
              "(?:REQUIRE|CHECK)(?:_\\w+)?\\( ?(.{2,200}?) ?\\)(?:$| is NOT| failed)"),
          Form.of(Kind.EXPRESSION, "EXPECT_|ASSERT_", "(?:EXPECT|ASSERT)_\\w+\\((.{2,200})\\)"),
          Form.of(
              Kind.EXPRESSION,
              "Condition not satisfied",
              "Condition not satisfied:?\\s*\\n+\\s*(?!Condition not)([^\\n]{2,200})"),
          Form.of(
              Kind.EXPRESSION,
              "Expectation failed",
              "Expectation failed: \\(?([^\\n→]{2,200}?)(?: → |$)"),
          Form.of(
              Kind.EXPRESSION,
              "Failure/Error:",
              "Failure/Error: ?\\n?\\s*(?:expect\\(?\\{? ?(.{1,200}?) ?\\}?\\)?\\.(?:not_to|to_not|to)\\b|(.{1,200}?)\\.should(?:_not)?\\b|([^\\n]{2,200}))"),
          Form.of(
              Kind.EXPRESSION,
              "+  where|assert ",
              "\\+  where [^\\n=]{1,200}? = ([\\w.]+(?:\\([^\\n]{0,100}?\\))?(?:\\.\\w+(?:\\([^\\n]{0,100}?\\))?)*)"),
          Form.of(
              Kind.EXPRESSION,
              "assert",
              "^(?:E\\s+)?(?:AssertionError: ?)?assert (?:not )?([A-Za-z_]\\w*(?:\\.\\w+|\\[[^\\]\\n]{1,60}\\]|\\([^)\\n]{0,60}\\))+)"),
          Form.of(Kind.EXPRESSION, "Error in |Expected equality", "code: +assert (.{2,200})$"),
          // Beside an error that was thrown, it tells from where
          Form.of(
              Kind.EXPRESSION,
              "code: ",
              "(?s)\\A(?!.{0,4000}\\*\\* \\((?!ExUnit)).{0,4000}?^\\s*code: +(?:assert |refute )?([A-Za-z_(%~][^\\n]{1,200})$"),
          Form.of(
              Kind.EXPRESSION,
              " = |() |: got|want",
              "^(?:[\\w./-]+:\\d+: )?([A-Za-z_][\\w.]*\\([^\\n]{0,120}?\\)(?:\\.\\w+)*) (?:=|returned|==|got|failed)"),
          Form.of(
              Kind.EXPRESSION,
              "want",
              "^(?:[\\w./-]+:\\d+: )?(?:got )?([A-Za-z_]\\w*(?:\\.\\w+)+|[A-Za-z_][\\w.]*\\([^\\n]{0,120}?\\)(?:\\.\\w+)*) (?:=|is|was) [^\\n]{1,200}\\bwant"),
          Form.of(
              Kind.EXPRESSION,
              "Error: Expression|evaluates to false|xpression",
              "[Ee]xpression:? [\"'`]?([^\"'`\\n]{3,200})[\"'`]? (?:evaluat|is|was|did)"),
          Form.of(Kind.EXPRESSION, "ommand |rocess |cript ", COMMAND),
          Form.of(
              Kind.EXPRESSION,
              "test -|' failed|[[|`[",
              "[`'](\\[+ .{3,200} \\]+|(?!assert_)[^'`\\n]{3,200})' failed"));

  static final List<Form> DESCRIPTIONS =
      List.of(
          // pytest, before what was compared
          Form.of(
              Kind.DESCRIPTION,
              "\nassert ",
              "^AssertionError: ((?!assert\\b)[A-Za-z][^\\n]{3,160})\\n\\s*assert "),
          Form.of(Kind.DESCRIPTION, "==>", "^(?:[\\w.$]+: )?(.{3,200}?) ==> "),
          Form.of(
              Kind.DESCRIPTION,
              "[",
              "^(?:[\\w.$]*[A-Z]\\w*: )?\\[([A-Za-z](?:(?!\\.\\w{1,6}:\\d)[^\\]\\n]){3,160})\\]\\s*(?:$|\\n|Expecting|expected)"),
          // unittest puts it behind
          Form.of(
              Kind.DESCRIPTION,
              " : |\n: ",
              "^(?:[\\w.]+: )?[^\\n]{1,300}(?:!=|==|not true|is not false|not found in|not less than|not greater than|is not None|is None|unexpectedly [^:\\n]{1,40}| is not )[^\\n:]{0,200} : ([A-Za-z][^\\n]{3,200})$|^ ?: ([A-Za-z][^\\n]{3,200})$"),
          Form.of(
              Kind.DESCRIPTION,
              " != | == ",
              "^(?:[\\w.$]+(?:Error|Exception|Failure)?: )?([A-Z][\\w .,'\"/()-]{5,160}?): [^\\s:]{1,60} (?:!=|==) [^\\s:]{1,60}$"),
          Form.of(
              Kind.DESCRIPTION,
              "left == right` failed|left != right` failed|right: `",
              "assertion `left [!=]= right` failed: (.{3,200})$|^\\s*right: `[^`\\n]{0,200}`: (.{3,200})$"),
          Form.of(
              Kind.DESCRIPTION,
              "Assert.",
              "\\bAssert\\.\\w+ failed\\. (?:Expected[^\\n]{0,300}?Actual:<[^>\\n]{0,200}>\\. )?(?!Expected|Actual|Value|Difference)([A-Z].{3,200})$"),
          Form.of(
              Kind.DESCRIPTION,
              "XCTAssert",
              "XCTAssert\\w* failed:? [^\\n]{1,300} - ([A-Za-z][^\\n]{2,200})$"),
          Form.of(Kind.DESCRIPTION, "Failed test '", "Failed test '([^'\\n]{3,200})'"),
          Form.of(
              Kind.DESCRIPTION,
              "FAIL |ASSERT ",
              "^(?:ASSERT|FAIL) ([a-z][^\\n:]{3,200})\\n(?s:.{0,200})xpected"),
          Form.of(Kind.DESCRIPTION, "✗ ", "^\\s*✗ ([A-Za-z][^\\n]{3,200})\\n\\s*↳"),
          // A heading, and what somebody wrote below it
          Form.of(
              Kind.DESCRIPTION,
              "est Diagnostic:",
              "Test Diagnostic:\\s*\\n(?:-+\\n)?\\s*([A-Za-z][^\\n]{3,200})$"),
          // Blocks of keys and values, as TAP and others print them
          Form.of(
              Kind.DESCRIPTION,
              "message:",
              "^message:[ \\t]+['\"]?([A-Za-z][^\\n]{3,200}?)['\"]?$(?=[\\s\\S]{0,400}^(?:severity|actual|expected|got):)"),
          Form.of(Kind.DESCRIPTION, "Messages:", "Messages:\\s+(.{3,200})$"),
          Form.of(
              Kind.DESCRIPTION,
              "expected|Expected",
              "^(?:[\\w.$:]+(?:Error|Exception|Failure|Assertion)?: )?((?![Ee]xpected|Assert\\.)[A-Za-z][\\w .,'\"/()-]{5,160}?)(?:[:.,]| -)\\s+[Ee]xpected\\b"));

  private CheckForms() {}
}
