package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** Fields of what was compared, decoded or validated. */
final class FieldForms {
  static final List<Form> FORMS =
      List.of(
          // Elixir
          Form.of(
              Kind.FIELD,
              " not found in: ",
              "\\(KeyError\\) key :?\"?([A-Za-z_]\\w*[?!]?)\"? not found in: "),
          Form.of(
              Kind.FIELD,
              "Path to failure: ",
              "Path to failure: (?:<\\w{1,20}>\\.)?([A-Za-z_][\\w.]{1,100})"),
          Form.of(Kind.FIELD, "Expected path: ", "Expected path: \"([^\"\\n]{1,200})\""),
          // Fields
          Form.of(
              Kind.FIELD,
              "does not exist on type|nrecognized field",
              "(\\w+['\"] does not exist on type '[^'\\n]{1,200})'|nrecognized field (\"\\w+\" \\(class [\\w.$]+)"),
          Form.of(
              Kind.FIELD,
              "object has no attribute",
              "('(?!(?:NoneType|str|int|float|bool|list|dict|tuple|set|bytes|function|method|module|type|generator|coroutine|object|Mock|MagicMock)')\\w+' object has no attribute '\\w+')"),
          // Of classes in classes, the innermost
          Form.of(
              Kind.FIELD,
              "reference chain: ",
              "reference chain: [^\\n]{0,400}?([\\w$]+\\[\"[\\w.-]+\"\\])\\)"),
          Form.of(
              Kind.FIELD,
              "ield: |olumn: |roperty: ",
              "^\\s*(?:[Ff]ield|[Cc]olumn|[Pp]roperty): ([A-Za-z_][\\w.]{1,100})$"),
          Form.of(
              Kind.FIELD,
              "\"path\":",
              "\"path\": ?\\[\\s*(\"[\\w.-]{1,60}\"(?:,\\s*(?:\"[\\w.-]{1,60}\"|\\d{1,9})){0,8})\\s*\\]"),
          Form.of(
              Kind.FIELD,
              "collection of role: ",
              "collection of role: [\\w.$]*?(\\w+\\.\\w+)(?=[:,\\s]|$)"),
          Form.of(
              Kind.FIELD,
              " mismatch",
              "^(?:[\\w./-]+:\\d+: )?([A-Za-z_]\\w*(?:\\.\\w+)+) mismatch\\b"),
          Form.of(Kind.FIELD, "non-nullable field", "non-nullable field ([A-Z]\\w*\\.\\w+)"),
          Form.of(
              Kind.FIELD,
              "differ|JSON path|son path|jsonpath|JSONPath|match failed|roperty|ield",
              "field/property '([\\w.\\[\\]]+)' differ|(?:JSON|Json|json)[ _]?[Pp]ath:? [\"'`]?(\\$?[\\w.\\[\\]'$*@?()-]{2,120})[\"'`]?|match failed: .{0,60}\\n\\s*\\|?\\s*(\\$[\\w.\\[\\]]*)|^\\s*(\\$(?:\\.[\\w\\[\\]]+)+) \\||(?:hasProperty\\(|[Pp]roperty |[Ff]ield |[Aa]ttribute |[Cc]olumn |[Hh]eader |[Kk]ey )[\"'`]([\\w.\\[\\]-]{2,100})[\"'`]"),
          Form.of(
              Kind.FIELD,
              "Expected ",
              "\\bExpected (?:property )?((?:[a-z_]\\w*\\.)[\\w.\\[\\]]{1,100}) (?:not )?to (?:be(?! (?:thrown|raised)\\b)|have|contain|equal|start|match|end)"),
          Form.of(
              Kind.FIELD, " the key | key '| key \"", "\\b[Kk]ey ['\"]([\\w.\\[\\]-]{2,100})['\"]"),
          Form.of(
              Kind.FIELD,
              " had size | had length ",
              "^(?:[\\w.]+: )?([a-z]\\w*(?:\\.\\w+)+) had (?:size|length) \\d"),
          Form.of(
              Kind.FIELD,
              " expected [",
              "^(?:[\\w.]+: )?\\s*([A-Za-z_]\\w*(?:\\.\\w+)+) expected \\["),
          // Tables of what differs
          Form.of(Kind.FIELD, "Path:", "^\\s*Path:\\s+([A-Za-z_]\\w*(?:\\.\\w+|\\[\\d+\\])+)$"),
          Form.of(
              Kind.FIELD,
              "$.",
              "(?<![\\w$])(\\$(?:\\.[A-Za-z_]\\w*(?:\\[\\d+\\])?){1,8})(?![\\w(])"),
          Form.of(Kind.FIELD, "='|=\"", "\\b(?:column|field)=['\"]([\\w.]{2,100})['\"]"),
          // Decoders
          Form.of(
              Kind.FIELD,
              " at .| at $.| path",
              "\\b(?:at|path:?) (?:path:? )?[\"'`]?(\\$?(?:\\.[A-Za-z_]\\w*(?:\\[\\d+\\])?){1,8})[\"'`]?(?=[:,;\\s]|$)"),
          Form.of(
              Kind.FIELD,
              "validation error",
              "validation errors? for (\\w+\\n\\s*(?![\\w.]*(?:Error|Exception)\\b)[\\w.]+)"),
          Form.of(Kind.FIELD, "├|└", "[├└] ?─? ?(\\w+): expected"),
          Form.of(
              Kind.FIELD,
              "should be|should equal|should contain|should not",
              "(?:^|: )[ \\t]*([A-Za-z_][\\w]*(?:\\.[\\w()]+)+)\\s*\\n\\s*should (?:be|equal|contain|not|have|start)"),
          // The name in a line of its own, before what was expected
          Form.of(
              Kind.FIELD,
              "\nExpected|\n  Expected",
              "(?:^|: |\\[FAILED\\] )([A-Za-z_][\\w\\[\\]]*(?:\\.[\\w\\[\\]]+)+)\\s*\\n\\s*Expected\\b"));

  private FieldForms() {}
}
