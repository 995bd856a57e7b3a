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
      List.of(
          // What lies over an element
          Form.of(
              Kind.COVER,
              "intercepts pointer events",
              "(<[^>\\n]{1,400}>)[^\\n]{0,400}? intercepts pointer events"),
          Form.of(
              Kind.COVER,
              "would receive the click",
              "would receive the click:? (<[^>\\n]{1,400}>|\\S+)"),
          Form.of(
              Kind.COVER,
              "covered by|obscured by|obstructed by|overlapped by|intercepted by|blocked by|hidden behind",
              "(?:covered|obscured|obstructed|overlapped|intercepted|blocked|hidden) (?:by|behind):? ?(?:another )?(?:the )?(?:element)?:?\\s{0,4}[`'\"]?(<[^>\\n]{1,400}>|[#.\\[][^\\s`'\"]{1,200})"),
          Form.of(
              Kind.COVER,
              "covered by|obscured by|obstructed by|overlapped by|intercepted by|hidden behind",
              "(?:covered|obscured|obstructed|overlapped|intercepted|hidden) (?:by|behind) (?:another )?(?:the )?(?:element )?:?[`'\"]?((?!element|another|the )[\\w#.-]{3,100})"),
          Form.of(
              Kind.COVER,
              "unexpected alert open",
              "unexpected alert open: ?\\{Alert text ?: ([^}\\n]{2,200})\\}"),
          // Elements
          Form.of(
              Kind.LOCATOR, "MATCHER(", "MATCHER\\((?:\\w+ == )?[\"']([^\"'\\n]{1,200})[\"']\\)"),
          Form.of(
              Kind.LOCATOR,
              "expected '<",
              "expected '<([^'\\n]{2,200})>' (?:not )?to (?:be|have|exist|contain|match|include)"),
          Form.of(
              Kind.LOCATOR,
              "to find content|to find text|to find visible text|have content|have text|to contain text|with text|contain content",
              "(?:to find (?:visible )?(?:content|text):?|to (?:have|contain) (?:content|text)|element with text:?) ?\\(?(?:[\"'`]([^\"'`\\n]{2,200})[\"'`])"),
          Form.of(
              Kind.LOCATOR,
              " and name ",
              "(role [`\"=]{0,2}\\w+[`\"]{0,2} and name [`\"'/][^\\n]{1,200}?[`\"'](?=$|[\\s.,]))"),
          Form.of(Kind.LOCATOR, "Locator: ", "^\\s*Locator: {1,4}(.{1,400})$"),
          Form.of(
              Kind.LOCATOR,
              "waiting for ",
              "waiting for ((?:get[A-Z]\\w+|locator|frameLocator|\\$)\\(.{1,400}?\\)(?:\\.\\w+\\([^\\n]{0,200}?\\)){0,6})(?: to be \\w+| to (?:contain|have)\\b.*)?$"),
          Form.of(
              Kind.LOCATOR,
              "strict mode violation",
              "strict mode violation: (.{1,300}?) resolved to"),
          Form.of(
              Kind.LOCATOR,
              "] -> ",
              "\\] -> ((?:css selector|xpath|id|name|link text|partial link text|tag name|class name): [^\\n]{1,300}?)\\]+"),
          Form.of(
              Kind.LOCATOR, "\"selector\"", "\"selector\" ?: ?\"((?:[^\"\\\\]|\\\\.){1,300})\""),
          Form.of(
              Kind.LOCATOR,
              "located by|locate element|By.",
              "(?:located by|locate element(?: located by)?:?|element(?: with)?:?|for locator:?) ?((?:By\\.\\w+|css selector|xpath|id)(?:: ?|\\().{1,300}?)(?: to be .{1,40})?(?:\\)? \\(tried| \\(tried|$|\\. |, )"),
          Form.of(
              Kind.LOCATOR,
              "Expected to find element|to find |to find content|Unable to find|find element",
              "(?:[Ee]xpected to find element: ?`([^`]{1,300})`|Unable to find (?:an? )?(?:accessible )?(?:element|label|role|[a-z ]{0,30}?(?:button|link|field|css|xpath|selector|checkbox|option))(?: (?:with|by))?(?: the)?(?: (?:text|role|label text|alt text|title|placeholder text|display value|by|css|xpath|id))?:? [\\[]?[\"`']([^\"`'\\n]{1,300})[\"`']|Unable to find element by: \\[(.{1,300})\\]$|expected to find (?:[a-z]+ ){1,4}\"([^\"\\n]{1,300})\"|find element(?: with)?(?: (?:css|xpath|id|locator))? [\"'`]([^\"'`\\n]{1,300})[\"'`])"),
          Form.of(Kind.LOCATOR, "lement not found {", "lement not found \\{(.{1,300}?)\\}$"),
          Form.of(Kind.LOCATOR, "element (|element(", "[Ee]lement ?\\([\"'](.{1,300}?)[\"']\\)"),
          Form.of(
              Kind.LOCATOR, "using selector ", "using selector [`\"']?([^\\n]{2,300}?)[`\"']?$"),
          Form.of(
              Kind.LOCATOR,
              "elector",
              "(?:waiting for selector|Waiting for selector|for selector|selector:?|Selector|locating element for selector) ?\\(?[`\"']((?:[^`\"'\\n\\[]|\\[[^\\]\\n]{1,200}\\]){1,300})[`\"']"),
          Form.of(
              Kind.LOCATOR,
              "with locator|lement '|lement locator|mage '|ist '",
              "(?:with locator|\\b(?:[Ee]lement|Image|List)|[Ee]lement locator) '([^\\n]{1,300}?)'(?= (?:not|never|is|was|were|did|does|should|still|could|can|with|after|in|to|but|has|had)\\b|[.:,;]|$)"),
          Form.of(
              Kind.LOCATOR,
              "not found",
              "\\bwith (?:id|name|title|alt|text|value|label|placeholder)(?:\\|\\w+){1,6} [\"'`]([^\"'`\\n]{1,200})[\"'`] not found"),
          Form.of(
              Kind.LOCATOR,
              "No views in hierarchy|No matching view",
              "matching: (.{1,300}?)(?:$| If the target)"),
          Form.of(
              Kind.LOCATOR,
              "No matches found|Failed to tap|Failed to get matching",
              "(?:No matches found for|Failed to (?:tap|get matching snapshots?:?(?: Error getting matching snapshots?:)?(?: No matches found for)?)) ((?:\"[^\"]{1,200}\"|'[^']{1,200}'|[^\\n]{1,200}?)(?: \\w+)?)(?::|$| from input)"),
          Form.of(
              Kind.LOCATOR,
              "widget|Found 0 widgets",
              "(?:zero|no|0) widgets with (.{1,200}?)(?:>| \\(ignoring|$|:)"),
          Form.of(
              Kind.LOCATOR,
              "no such element|NoSuchElement|ot visible|ot displayed|ot clickable|ot found|ot interactable|still |ot in the|ot present",
              "[Ee]lement:? [<`\"'(\\[]([^>`\"')\\]\\n]{2,200})[>`\"')\\]] (?:is |was |did )?(?:still )?(?:not|never)\\b"),
          Form.of(
              Kind.LOCATOR,
              "y-role|by text|getBy|findBy|get_by",
              "((?:get|find|query)_?(?:all_?)?[Bb]y_?\\w+\\([^\\n]{1,200}?\\)(?:\\.\\w+\\([^\\n]{0,100}?\\)){0,4})(?=[.\\s:,]|$)"),
          Form.of(
              Kind.LOCATOR,
              "target|ocator|elector|lement|control|widget",
              "^\\s*(?:[Tt]arget|[Ll]ocator|[Ss]elector|[Ee]lement|[Cc]ontrol|[Ww]idget)\\s*[:=]\\s*(\\S.{0,300})$"),
          // Whatever looks like a selector, where elements are spoken of
          Form.of(
              Kind.LOCATOR,
              "lement|ocator|elector|lickable|isible|tap |click|nteractable",
              "(?<![\\w&/:])(#[A-Za-z][\\w-]{2,60}|\\[data-[\\w-]{1,40}=[^\\]\\n]{1,80}\\]|//[a-z*][\\w.*]{0,80}\\[[^\\n]{1,120}?\\](?:/[\\w*]+)*)(?=[\"'`\\s,.;:)]|$)"),
          // Pictures and kept texts
          Form.of(
              Kind.SNAPSHOT,
              "napshot",
              "[Ss]napshot name: [`'\"]?(.{1,200}?)[`'\"]?(?: \\d+)?$|[Ss]napshot [`'\"]([^`'\"\\n]{1,200}?)(?: \\d+)?[`'\"]|[Ss]napshot: {1,3}([\\w ./-]{1,200}?\\.\\w{2,5})|snapshot assertion for '([^']{1,200})'|snapshot ([\\w./-]{2,200}) (?:does not match|differs|mismatch)"),
          Form.of(
              Kind.SNAPSHOT,
              ".png|.approved|.verified|.golden|olden|aseline|creenshot",
              "([\\w.-]{1,150}?)(?:-(?:linux|darwin|win32|chromium|firefox|webkit|expected|actual|diff|received)){0,4}\\.(?:png|approved\\.\\w+|verified\\.\\w+|received\\.\\w+|golden|snap)\\b|(?:golden(?: file)?|baseline|approval|[Ss]creenshot) [\"'`]([^\"'`\\n]{1,200})[\"'`]"),
          // Files
          Form.of(
              Kind.FILE,
              "because it does not exist|o such file|ENOENT|NoSuchFile|FileNotFound|ould not find file|os error 2|Os { code: 2|kInvalid|ot find a part|annot find the|here is no such",
              "Cannot find path '([^'\\n]{1,300})' because it does not exist|(?:ENOENT: no such file or directory, \\w+|No such file or directory:?|NoSuchFileException:|Could not find (?:a part of the path|file)|rb_sysopen -|cannot access|cannot open|opening) ['\"`]?([^'\"`\\n]{1,300}?)['\"`]?(?:$| \\(No such|\\. |\\.$|: No such|' -> | \\{$)|([^\\s'\"(:]{0,200}[./][^\\s'\"(:]{1,200}): No such file or directory|(?:FileNotFoundException|FileNotFoundError|NoSuchFile\\w*)[: ]+(?:\\[Errno 2\\] [^:]*: )?['\"]?([^'\"\\n(]{1,300}?)['\"]?(?: \\(.*\\))?$|(?:open|stat|lstat|read|mkdir|chdir|readlink|fork/exec) (\\S{1,300}): (?:no such file|The system cannot)|\\(([^()\\n]{1,300})\\): [Ff]ailed to open stream|^(/\\S{1,300}|\\S{1,200}/\\S{1,200}) \\((?:No such file|Datei|Aucun fichier)|(\\S{1,300}): Os \\{ code: 2,|file [\"'`]([^\"'`\\n]{1,300})[\"'`].{0,80}?no such file|(/[^\\s:'\"]{1,300}|[\\w./-]{1,200}\\.\\w{1,5}) \\(No such file"),
          // Parts that were to be injected
          Form.of(
              Kind.BEAN,
              "resolve dependencies of",
              "resolve dependencies of [\\s\\S]{1,300}?argument \"?([\\w.]+)\"? at index"),
          Form.of(
              Kind.BEAN,
              "ualifying bean|No bean named|No implementation for|resolve service for type|resolve dependencies of|No provider for|No definition found|not instantiable|on-existent service|nsatisfied dependency|nsatisfied dependencies|utowire",
              "qualifying bean of type '([\\w.$]+)|No bean named '([\\w.$-]+)'|No implementation for ([\\w.$]+)|resolve service for type '([\\w.`]+)|resolve dependencies of the (\\w+)|No provider for (\\w+)|No definition found for (?:class|type)[: ]*'?([\\w.]+)|Target \\[([\\w\\\\]+)\\] is not instantiable|non-existent service \"([\\w.]+)\"|[Uu]nsatisfied dependenc(?:y|ies) for type ([\\w.<>]+)|autowire.{0,80}?type '([\\w.]+)"),
          // Classes, modules, symbols
          Form.of(
              Kind.MODULE,
              "ommand not found|: not found|executable file not found|spawn |is not recognized",
              "([\\w.+-]{2,80}): (?:command )?not found$|exec: \"([^\"\\n]{1,200})\": executable file not found|spawn (\\S{1,200}) ENOENT|'([^'\\n]{1,100})' is not recognized as"),
          Form.of(
              Kind.MODULE,
              "ClassNotFound|NoClassDefFound|No module named|annot find module|annot find package|cannot load such file|uninitialized constant|not load file or assembly|undefined symbol|ndefined reference|unresolved import|to resolve import|NoSuchMethodError|NoSuchFieldError|cannot import name|shared object file|MissingMethodException|no such module|no such target|Class \"|Could not find class",
              "ClassNotFoundException: ([\\w.$]+)|NoClassDefFoundError: (?:Could not initialize class )?([\\w./$]+)|No module named '?([\\w.]+)|annot find (?:module|package) '([^'\\n]+)'|cannot load such file -- (\\S+)|uninitialized constant ([\\w:]+)|load file or assembly '([\\w.]+)|undefined symbol: (\\S+)|[Uu]ndefined reference to [`']([^'\\n]+)'|unresolved import `([^`]+)`|to resolve import \"([^\"\\n]+)\"|NoSuch(?:Method|Field)Error: '?(?:[\\w.<>\\[\\]]+ )?([\\w.$/]+)|cannot import name '(\\w+)'|(\\S+?): cannot open shared object file|Method not found: '[^']*?([\\w.]+)\\(|no such module '(\\w+)'|no such (?:target|package) '([^'\\n]{2,200})'|Class \"([\\w\\\\]+)\" (?:not found|does not exist)"),
          // Settings
          Form.of(Kind.SETTING, "ariable '", "[Vv]ariable '([$@&]\\{[^}'\\n]{1,80}\\})' not found"),
          Form.of(
              Kind.SETTING,
              "validation error",
              "validation errors? for \\w+\\n\\s*([A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+)$"),
          Form.of(
              Kind.SETTING,
              "KeyError|key not found|environ|env.|ENV[|getenv|NotPresent",
              "(?:KeyError: '|key not found: \"|KeyError: key not found: \"|environ\\[['\"]|process\\.env\\.|ENV\\[['\"]|getenv\\(['\"]|env(?:ironment)? var(?:iable)? [`'\"]?)([A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+)\\b"),
          Form.of(
              Kind.SETTING,
              "laceholder|nvironment variable|onfiguration|onfig|roperty|etting|env var|secret|feature flag|Feature flag",
              "resolve placeholder '([\\w.-]+)|[Ee]nvironment variables? [\"'`$]?\\{?([A-Z][A-Z0-9_]{2,60})|(?:[Cc]onfig(?:uration)?|[Pp]roperty|[Ss]etting|[Pp]arameter|[Ss]ecret|[Oo]ption|[Ff]eature flag|env var)(?: key| value| property| named| for)? [\"'`]([\\w.:-]{3,100})[\"'`] (?:is |was )?(?:not|missing|required|undefined|unset|unknown|empty|null)|(?:[Mm]issing|[Uu]nknown|[Rr]equired)(?: required)? (?:config(?:uration)?|property|setting|environment variable|parameter|secret|option|feature flag|key|env var)s?(?: key| value| property| named)?:? [\"'`]?([A-Za-z][\\w.:-]{2,100})"),
          // Fields
          Form.of(
              Kind.FIELD,
              "does not exist on type|nrecognized field",
              "(\\w+['\"] does not exist on type '[^'\\n]{1,200})'|nrecognized field (\"\\w+\" \\(class [\\w.$]+)"),
          Form.of(
              Kind.FIELD,
              "ield |olumn |roperty ",
              "^\\s*(?:[Ff]ield|[Cc]olumn|[Pp]roperty):? ([A-Za-z_][\\w.]{1,100})$"),
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
          Form.of(
              Kind.FIELD, "='|=\"", "\\b(?:column|field|key|property)=['\"]([\\w.]{2,100})['\"]"),
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
              "(?:^|: |\\[FAILED\\] )([A-Za-z_][\\w\\[\\]]*(?:\\.[\\w\\[\\]]+)+)\\s*\\n\\s*Expected\\b"),
          // Waits
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
              "aiting for|ait for|waited |waits for|never received|ever arrived|no message on|awaiting",
              "(?:[Tt]ime(?:d)? ?out|[Gg]ave up|[Ff]ailed|[Ss]topped|expired|exceeded|[Tt]ired)[^\\n]{0,60}?(?:waiting|wait|awaiting)(?: for)? (?:the )?(?:condition |event |message |signal |element |job |result )?[:]?\\s*[\"'`<]?([^\"'`\\n>]{3,160}?)[\"'`>]?(?= (?:after|within|to (?:be|become|appear|finish|complete)|for \\d|in \\d)\\b|[.;,] |[.)]?$)|[Ww]ait(?:ed|ing)(?: up to)?(?: [\\d.,]+ ?(?:ms|s|sec|seconds|minutes|m))? for (?:the )?(?:condition |event |message )?[\"'`<]?([^\"'`\\n>]{3,160}?)[\"'`>]?(?= (?:after|within|but|to (?:be|become|appear)|for \\d|in \\d)\\b|[.;,] |[.)]?$)|never (?:received|saw|got) (?:the |an? )?(?:event |message )?[\"'`<]?([^\"'`\\n>]{3,120}?)(?=[\"'`>]| (?:within|after|in|for) \\d|[.;,] |[.)]?$)|[Nn]o message on (?:topic |queue )?[\"'`]?([\\w.-]{3,100})"),
          // Calls of what stands in for something
          Form.of(
              Kind.CALL,
              "invo|Invo|called|interactions|calls|call that|calls that|Verification failed|receive|not been called|missing call|EXPECT_CALL|unsatisfied",
              "Wanted but not invoked:\\s*([\\w.$]+)\\(|^\\s*([\\w$]+\\.[\\w$]+)\\([^\\n]{0,200}\\);\\s*\\n?\\s*Wanted \\d+ time"
                  + "|(?:[Ee]xpected )[`'\"]?([\\w.$]+)[`'\"]? (?:not )?to (?:have been|be) (?:not )?called"
                  + "|Expected '([\\w.]+)' to (?:not )?(?:have been|be) (?:called|awaited)|expected call(?:s)? not found.*\\n?\\s*Expected: ([\\w.]+)\\("
                  + "|(?:[Ii]nvocation|[Cc]all)[^\\n]{0,80}?: ?\\w{1,12} => \\w{1,12}\\.([\\w.]+)"
                  + "|Too (?:few|many) invocations for:\\s*\\S+ \\* ([\\w.$]+)|[Ee]xpected to receive[^\\n]{0,60}:\\s*([\\w.]+)\\("
                  + "|Verification failed: [^\\n]{0,80}?: ([\\w.]+(?:\\(#?\\d*\\))?\\.\\w+)\\(|missing call\\(s\\) to (\\S+?)\\("
                  + "|expect\\((?:jest\\.fn\\(\\)|spy|mock|vi\\.fn\\(\\)|([\\w.]{3,80}))\\)\\.(?:not\\.)?toHaveBeen"
                  + "|Method ([\\w\\\\:<>-]+)\\([^\\n]{0,100}\\) from [^\\n]{1,100} should be called|(?:was expected to be called|should be called)[^\\n]{0,40}for method \\W?([\\w:\\\\]+)"
                  + "|method name is \"(\\w+)\"|\\((?:Instance|Class|Object)Double\\((\\w+\\)[^\\n]{0,80}\\)\\.\\w+)\\(|\\((?:Double|InstanceDouble|ClassDouble|Instance)[^\\n]{0,80}\\)\\.(\\w+)\\("
                  + "|calls? that (?:WERE|were) (?:NOT|not) (?:fulfilled|made|met|received)\\W+([\\w:.>-]*\\w)"
                  + "|EXPECT_CALL\\((\\w+, \\w+)|[Ff]unction (?:call|mock)[^\\n]{0,40}: (\\w+)\\("),
          // Errors that a program lists by name
          Form.of(
              Kind.CASE,
              "` on an `Err` value: |Error: ",
              "(?:on an `Err` value: |^Error: )((?!Os\\b|Custom\\b|Io\\b|Parse(?:Int|Float|Bool|Char)Error\\b|Utf8Error|FromUtf8Error|TryFrom\\w*Error|RecvError|SendError|PoisonError|NotPresent\\b|Elapsed\\b|SystemTimeError|Error\\b|AddrParseError)[A-Z][a-z0-9]+(?:[A-Z][a-z0-9]*)+)(?=[ ({]{1,3}[a-z_\"\\d(]|$)"),
          Form.of(Kind.CASE, "Error.", "^\\s*([A-Z]\\w*Error\\.[a-z]\\w{2,80})(?=\\.?$|\\(\\)$)"),
          // Steps
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
              "[Kk]eyword '([^'\\n]{2,200})' failed|^\\s*KEYWORD:? ([A-Z][^\\n]{2,200})$"),
          Form.of(Kind.STEP, "No keyword with name", "No keyword with name '([^']{2,200})'"),
          Form.of(
              Kind.STEP,
              "Given |When |Then |And |But ",
              "\\A((?:Given|When|Then|And|But) [^\\n]{3,200})\\n\\s*\\S"));

  /** Expressions, which may be as common as {@code result}. */
  private static final List<Form> EXPRESSIONS =
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
              "Failure/Error: ?\\n?\\s*(?:expect\\(?\\{? ?(.{1,200}?) ?\\}?\\)?\\.(?:not_to|to_not|to)\\b|([^\\n]{2,200}))"),
          Form.of(
              Kind.EXPRESSION,
              "+  where|assert ",
              "\\+  where [^\\n=]{1,200}? = ([\\w.]+(?:\\([^\\n]{0,100}?\\))?(?:\\.\\w+(?:\\([^\\n]{0,100}?\\))?)*)"),
          Form.of(
              Kind.EXPRESSION,
              "assert",
              "^(?:E\\s+)?(?:AssertionError: ?)?assert (?:not )?([A-Za-z_]\\w*(?:\\.\\w+|\\[[^\\]\\n]{1,60}\\]|\\([^)\\n]{0,60}\\))+)"),
          Form.of(Kind.EXPRESSION, "Error in |Expected equality", "code: +assert (.{2,200})$"),
          Form.of(Kind.EXPRESSION, "code: ", "^\\s*code: +(?:assert |refute )?(.{2,200})$"),
          Form.of(
              Kind.EXPRESSION,
              " = |() |: got|want",
              "^(?:[\\w./-]+:\\d+: )?([A-Za-z_][\\w.]*\\([^\\n]{0,120}?\\)(?:\\.\\w+)*) (?:=|returned|==|got|failed)"),
          Form.of(
              Kind.EXPRESSION,
              "Error: Expression|evaluates to false|xpression",
              "[Ee]xpression:? [\"'`]?([^\"'`\\n]{3,200})[\"'`]? (?:evaluat|is|was|did)"),
          Form.of(
              Kind.EXPRESSION,
              "test -|' failed|[[|`[",
              "[`'](\\[+ .{3,200} \\]+|(?!assert_)[^'`\\n]{3,200})' failed"));

  private static final List<Form> DESCRIPTIONS =
      List.of(
          Form.of(Kind.DESCRIPTION, "==>", "^(?:[\\w.$]+: )?(.{3,200}?) ==> "),
          Form.of(
              Kind.DESCRIPTION,
              "[",
              "^(?:[\\w.$]+: )?\\[([A-Za-z][^\\]\\n]{3,160})\\]\\s*(?:$|\\n|Expecting|expected)"),
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
          Form.of(Kind.DESCRIPTION, "✗ ", "^\\s*✗ ([A-Za-z][^\\n]{3,200})$"),
          Form.of(Kind.DESCRIPTION, "Messages:", "Messages:\\s+(.{3,200})$"),
          Form.of(
              Kind.DESCRIPTION,
              "expected|Expected",
              "^(?:[\\w.$:]+(?:Error|Exception|Failure|Assertion)?: )?((?![Ee]xpected|Assert\\.)[A-Za-z][\\w .,'\"/()-]{5,160}?)(?:[:.,]| -)\\s+[Ee]xpected\\b"));

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
          condition to be met | operation | the operation"""
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

  /** A name that programs use, and no word of a sentence. */
  private static final Pattern PATH_OF_FIELD =
      Pattern.compile(
          "[A-Za-z_]\\w*(?:[.][A-Za-z_]\\w*)+|[a-z]+(?:[A-Z][a-z0-9]+)+|[a-z]+(?:_[a-z0-9]+)+");

  private static final Pattern PATH_OF_VALUE =
      Pattern.compile("[A-Za-z_]\\w*(?:[.][A-Za-z_]\\w*)+");

  private static final Pattern KEYWORD = Pattern.compile("^(?:Given|When|Then|And|But|\\*) +");

  private static final Pattern WORD = Pattern.compile("[A-Za-z_]{3,}");

  private static final Pattern SPACES = Pattern.compile("\\s+");
  private static final Pattern LITERALS =
      Pattern.compile("(?:\"[^\"]*\"|'[^']*'|(?<![\\w.])-?\\d[\\d._,]*\\w{0,3}\\b)");

  private static final Pattern PICTURE =
      Pattern.compile(
          "(?:-(?:linux|darwin|win32|chromium|firefox|webkit|expected|actual|diff|received)){0,4}\\.(?:png|jpe?g|webp|snap|golden)$");

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

  private static final Pattern COMPARED =
      Pattern.compile("\\s*(?:===?|!==?|>=?|<=?|=>|→|->| is (?:not )?| in | to | eq | be )\\s*");

  /** A field, and the type that does not have it. */
  private static final Pattern OF_TYPE =
      Pattern.compile(
          "\"?(\\w+)['\"] (?:does not exist on type '|\\(class )(?:[\\w.]*[.$])?(\\w+).*");

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
          case SNAPSHOT -> PICTURE.matcher(Paths.last(found)).replaceFirst("");
          case BEAN -> simple(found);
          case MODULE -> found.replace('/', '.');
          case FIELD -> plainField(SPACES.matcher(found).replaceAll(" "));
          case STEP ->
              LITERALS
                  .matcher(SPACES.matcher(KEYWORD.matcher(found).replaceFirst("")).replaceAll(" "))
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
    Matcher ofType = OF_TYPE.matcher(name);
    if (ofType.matches()) {
      return ofType.group(2) + "." + ofType.group(1);
    }
    String path =
        name.indexOf('"') < 0
            ? name
            : name.replaceAll(",\\s*\\d+", "").replaceAll(",\\s*", ".").replace("\"", "");
    String plain = path.replaceAll("\\[\\d+\\]", "");
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
    String[] sides = COMPARED.split(text, 3);
    String telling = "";
    for (String side : sides) {
      String plain = side.strip();
      if (WORD.matcher(plain).find() && !isVague(plain)) {
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

  /** Whether it says how long was waited, and not for what. */
  private static boolean isTime(String name) {
    return TIME.matcher(name).matches();
  }

  private static boolean isVague(String name) {
    return VAGUE.contains(name.toLowerCase(Locale.ROOT).replace("$.", ""));
  }
}
