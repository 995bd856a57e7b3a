package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** What should have happened: waits, errors, cases, steps. */
final class ActForms {
  static final List<Form> WAITS =
      List.of(
          Form.of(
              Kind.AWAITED,
              "to the route: `|registered alias for: `",
              "(?:to the route|registered alias for): `@?(\\w[^`\\n]{1,100})`"),
          Form.of(
              Kind.AWAITED,
              "imed out after",
              "[Tt]imed out after [\\d.]+ ?m?s(?:econds)?\\.\\s*\\n\\s*([A-Za-z][^\\n:]{3,160})\\n\\s*Expected"),
          Form.of(
              Kind.AWAITED,
              "nfulfilled expectation",
              "[Uu]nfulfilled expectations?: \"([^\"\\n]{2,200})\""),
          Form.of(
              Kind.AWAITED,
              "GenServer.call(",
              "GenServer\\.call\\(([A-Z][\\w.]+),[^\\n]*\\)[\\s\\S]{0,80}?\\btime ?out\\b"),
          Form.of(
              Kind.AWAITED,
              "alias",
              "[Cc]ondition with alias ['\"]?(.{1,200}?)['\"]? (?:didn't|did not|was not)"),
          Form.of(
              Kind.AWAITED,
              "was not fulfilled",
              "[Cc]ondition with (?:lambda expression in )?(?!alias\\b)([\\w.]{3,200}?)(?:\\$[^\\s]{0,80})?(?: that uses [^\\n]{1,200}?)? was not fulfilled"),
          Form.of(
              Kind.AWAITED,
              "aiting for|ait for|waited |waits for|never received|ever arrived|no message on|awaiting",
              "(?:[Tt]ime(?:d)? ?out|[Gg]ave up|[Ff]ailed|[Ss]topped|expired|exceeded|[Tt]ired)[^\\n]{0,60}?(?:waiting|wait|awaiting)(?: for)? (?:the )?(?:condition |event |message |signal |element |job |result )?[:]?\\s*[\"'`<]?([^\"'`\\n>]{3,160}?)[\"'`>]?(?= (?:after|within|to (?:be|become|appear|finish|complete)|for \\d|in \\d)\\b|[.;,] |[.)]?$)|[Ww]ait(?:ed|ing)(?: up to)?(?: [\\d.,]+ ?(?:ms|s|sec|seconds|minutes|m))? for (?:the )?(?:condition |event |message )?[\"'`<]?([^\"'`\\n>]{3,160}?)[\"'`>]?(?= (?:after|within|but|to (?:be|become|appear)|for \\d|in \\d)\\b|[.;,] |[.)]?$)|never (?:received|saw|got) (?:the |an? )?(?:event |message )?[\"'`<]?([^\"'`\\n>]{3,120}?)(?=[\"'`>]| (?:within|after|in|for) \\d|[.;,] |[.)]?$)|[Nn]o message on (?:topic |queue )?[\"'`]?([\\w.-]{3,100})"));

  static final List<Form> FORMS =
      List.of(
          // Errors that should have come
          Form.of(
              Kind.ERROR,
              "DID NOT RAISE|not raised|nothing was raised|nothing was thrown|no exception was thrown|was not thrown|No exception was thrown|is thrown",
              "DID NOT RAISE <class '([\\w.]{2,200})'>|^(?:[\\w.]+: )?([A-Z][\\w.]{2,200}) not raised\\b"
                  + "|[Ee]xpected (?:exception )?([\\w.$:\\\\]{2,200}) to be (?:thrown|raised), but (?:nothing|no exception) was"
                  + "|[Ee]xpected (?:exception )?\\[?([A-Z][\\w.$:\\\\]{2,200})\\]? (?:with .{1,200} )?but (?:nothing|no exception) was"
                  + "|\\[?([A-Z][\\w:]{2,200})\\]? expected but nothing was raised"
                  + "|exception of type [\"']?([\\w\\\\]{2,200})[\"']? (?:is|was not) thrown"
                  + "|No exception was thrown\\s*\\n\\s*Expected: *typeof\\(([\\w.+]{2,200})\\)"),
          // Errors that a program lists by name
          Form.of(
              Kind.CASE,
              "` on an `Err` value: |^Error: ",
              "(?:on an `Err` value: |^Error: )((?!Os\\b|Custom\\b|Io\\b|Parse(?:Int|Float|Bool|Char)Error\\b|Utf8Error|FromUtf8Error|TryFrom\\w*Error|RecvError|SendError|PoisonError|NotPresent\\b|Elapsed\\b|SystemTimeError|Error\\b|AddrParseError)[A-Z][a-z0-9]+(?:[A-Z][a-z0-9]*)+)(?= \\{ |\\(|$)"),
          Form.of(
              Kind.CASE,
              ")\n",
              "\\A(?![\\s\\S]{0,2000}(?i:expect|actual))((?!Error\\b|Exception\\b|Some\\b|None\\b|Ok\\b|Err\\b)[A-Z][a-z0-9]+(?:[A-Z][a-z0-9]*)+)\\([^()\\n]{0,80}\\)$"),
          Form.of(Kind.CASE, "Error.", "^\\s*([A-Z]\\w*Error\\.[a-z]\\w{2,80})(?=\\.?$|\\(\\)$)"),
          // Rules of how pages shall be made
          Form.of(
              Kind.CASE,
              "ccessib|ave no violations",
              "^\\s*\"?[^\"\\n]{5,200} \\(([a-z]{2,20}(?:-[a-z]{2,20}){1,5})\\)\"?$|\\brule(?: id)?: [\"'`]?([a-z]{2,20}(?:-[a-z]{2,20}){1,5})\\b"),
          // Steps
          Form.of(
              Kind.STEP,
              "✘ |✗ |✖ |✕ |× ",
              "^\\s*[✘✗✖✕×] +(?:Given|When|Then|And|But|\\*) ([^\\n]{3,200})$"),
          Form.of(
              Kind.STEP,
              "✽.",
              "✽\\.(.{3,200}?)\\((?:file:|classpath:)?[^()\\s]{0,300}\\.feature:\\d+\\)"),
          Form.of(
              Kind.STEP,
              ".feature:",
              "\\.feature:\\d+:in [`']((?:Given |When |Then |And |But |\\* )?[^\\n]{3,200}?)'$"),
          Form.of(
              Kind.STEP,
              "Failing step:|[When(|[Given(|[Then(|[StepDefinition(",
              "Failing step: (.{3,200}?) \\.\\.\\.|\\[(?:Given|When|Then|StepDefinition)\\(@?\"([^\"\\n]{3,200})\"\\)\\]"),
          Form.of(
              Kind.STEP,
              "ndefined step|ndefined scenario|mbiguous step|mbiguous match|nmatched step|o matching step|tep \"|tep '|Failing step|Step failed|not implemented|StepDefinition",
              "(?:[Uu]ndefined|[Aa]mbiguous|[Uu]nmatched|[Mm]issing|[Ff]ail(?:ing|ed)) step(?: definition)?s?:? (?:for )?(?!with (?:these|the)\\b|found for)[\"'`]?([^\"'`\\n]{3,200})|[Ss]tep failed:? ((?:Given|When|Then|And|But|\\*) [^\\n]{3,200})|[Ss]tep [\"'`]([^\"'`\\n]{3,200})[\"'`] (?:is undefined|failed|undefined|not|did not)|[Aa]mbiguous match of [\"'`]([^\"'`\\n]{3,200})[\"'`]|No (?:matching )?(?:step(?: definition)?s?|keyword) (?:with name |found |matching |matches )(?:for )?(?:step: )?(?!the step\\b)[\"'`]?([^\"'`\\n]{3,200}?)[\"'`]?(?: found|$|\\.)"),
          Form.of(
              Kind.STEP,
              "snippet",
              "^\\s*@?(?:Given|When|Then|And|But|Step)\\([^\\n\"'`/]{0,3}[\"'`/]\\^?([^\\n\"'`/]{3,200}?)\\$?[\"'`/]"),
          Form.of(
              Kind.STEP,
              "KEYWORD|eyword '",
              "[Kk]eyword '([^'\\n]{2,200})' (?:failed|expect(?:ed|s) (?:at (?:least|most) )?\\d|(?:got|missing) )|^\\s*KEYWORD:? ([A-Z][^\\n]{2,200})$"),
          Form.of(Kind.STEP, "No keyword with name", "No keyword with name '([^']{2,200})'"),
          Form.of(
              Kind.STEP,
              "Given |When |Then |And |But ",
              "\\A((?:Given|When|Then|And|But) [^\\n]{3,200})\\n\\s*\\S"));

  private ActForms() {}
}
