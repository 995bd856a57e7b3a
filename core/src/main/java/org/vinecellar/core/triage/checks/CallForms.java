package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** Calls that should have come, of what stands in for something: each library in its words. */
final class CallForms {
  static final List<Form> FORMS =
      List.of(
          call("Wanted", "Wanted(?: but not invoked)?:\\s*([\\w.$]+)\\("),
          call(".On(\"", "\\bMock\\.On\\(\"(\\w+)\"\\)"),
          call(
              "Wanted ",
              "^\\s*([\\w$]+\\.[\\w$]+)\\([^\\n]{0,200}\\);\\s*\\n?\\s*Wanted \\d+ time"),
          call(
              " called",
              "[Ee]xpected [`'\"]?([\\w.$]+)[`'\"]? (?:not )?to (?:have been|be) (?:not )?called"),
          call(
              " called| awaited",
              "Expected '([\\w.]+)' to (?:not )?(?:have been|be) (?:called|awaited)"),
          call("expected call", "expected calls? not found.*\\n?\\s*Expected: ([\\w.]+)\\("),
          call(
              " => ",
              "(?:[Ii]nvocation|[Cc]all)[^\\n]{0,80}?: ?\\w{1,12} => \\w{1,12}\\.([\\w.]+)"),
          call(" invocations for:", "Too (?:few|many) invocations for:\\s*\\S+ \\* ([\\w.$]+)"),
          call("xpected to receive", "[Ee]xpected to receive[^\\n]{0,60}:\\s*([\\w.]+)\\("),
          call(
              "Verification failed: ",
              "Verification failed: [^\\n]{0,80}?: ([\\w.]+(?:\\(#?\\d*\\))?\\.\\w+)\\("),
          call("missing call(s) to ", "missing call\\(s\\) to (\\S+?)\\("),
          call(
              "toHaveBeen",
              "expect\\((?!(?:spy|mock)\\))([\\w.]{3,80})\\)\\.(?:not\\.)?toHaveBeen"),
          call(
              "should be called|was expected to be called",
              "Method ([\\w\\\\:<>-]+)\\([^\\n]{0,100}\\) from [^\\n]{1,100} should be called"
                  + "|(?:was expected to be called|should be called)[^\\n]{0,40}for method \\W?([\\w:\\\\]+)"),
          call("have_received(:", "have_received\\(:(\\w+)"),
          call("method name is \"", "method name is \"(\\w+)\""),
          call(
              "Double(", "\\((?:Instance|Class|Object)Double\\((\\w+\\)[^\\n]{0,80}\\)\\.\\w+)\\("),
          call(
              "(Double|(Instance|(ClassDouble",
              "\\((?:Double|InstanceDouble|ClassDouble|Instance)[^\\n]{0,80}\\)\\.(\\w+)\\("),
          call(
              "call that |calls that ",
              "calls? that (?:WERE|were) (?:NOT|not) (?:fulfilled|made|met|received)\\W+([\\w:.>-]*\\w)"),
          call("EXPECT_CALL(", "EXPECT_CALL\\((\\w+, \\w+)"),
          call("unction call|unction mock", "[Ff]unction (?:call|mock)[^\\n]{0,40}: (\\w+)\\("));

  private CallForms() {}

  private static Form call(String needs, String regex) {
    return Form.of(Kind.CALL, needs, regex);
  }
}
