package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** What is not there: files, parts that were to be injected, classes and modules, settings. */
final class MissingForms {
  static final List<Form> FORMS =
      List.of(
          // Files, and what is read from them, as frameworks print them
          Form.of(
              Kind.FILE,
              "cannot be opened|resource |ollowing path|NotFound|DoesNotExist|Missing",
              "\\[([^\\]\\n]{1,300})\\] cannot be opened|\\bresource [\\[\"'`]?([^\\s\\]\"'`]{1,200}\\.\\w{1,5})[\\]\"'`]? (?:was |is |does |could |can)?(?:not (?:be )?(?:found|exist)|cannot|missing)|at (?:any of )?the following paths?:\\s*(?:[>*-] )?[\"'`]?([^\\s\"'`]{1,300})|^[\\w.\\\\:]*(?:NotFound|DoesNotExist|Missing)\\w*: [\"'`]?([\\w./-]{1,200}\\.[a-z]{2,5})[\"'`]?$"),
          // Files
          Form.of(
              Kind.FILE,
              "because it does not exist|o such file|ENOENT|NoSuchFile|FileNotFound|ould not find file|os error 2|Os { code: 2|kInvalid|ot find a part|annot find the|here is no such",
              "Cannot find path '([^'\\n]{1,300})' because it does not exist|(?:ENOENT: no such file or directory, \\w+|No such file or directory:?|NoSuchFileException:|Could not find (?:a part of the path|file)|rb_sysopen -|cannot access|cannot open|opening) ['\"`]?([^'\"`\\n]{0,200}[./][^'\"`\\n]{1,100}?)['\"`]?(?:$| \\(No such|\\. |\\.$|: No such|' -> | \\{$)|([^\\s'\"(:]{0,200}[./][^\\s'\"(:]{1,200}): No such file or directory|(?:FileNotFoundException|FileNotFoundError|NoSuchFile\\w*)[: ]+(?:\\[Errno 2\\] [^:]*: )?['\"]?([^'\"\\n(]{1,300}?)['\"]?(?: \\(.*\\))?$|(?:open|stat|lstat|read|mkdir|chdir|readlink|fork/exec) (\\S{1,300}): (?:no such file|The system cannot)|\\(([^()\\n]{1,300})\\): [Ff]ailed to open stream|^(/\\S{1,300}|\\S{1,200}/\\S{1,200}) \\((?:No such file|Datei|Aucun fichier)|(\\S{1,300}): Os \\{ code: 2,|file [\"'`]([^\"'`\\n]{1,300})[\"'`].{0,80}?no such file|(/[^\\s:'\"]{1,300}|[\\w./-]{1,200}\\.\\w{1,5}) \\(No such file"),
          Form.of(
              Kind.FILE,
              " be read| be opened| be found| be loaded|Enoent",
              "\\bfile [\"'`]?([^\\s\"'`]{1,300}\\.\\w{1,6})[\"'`]? (?:can ?not|could not) be (?:read|opened|found|loaded)|\\bEnoent\\b[^\\n]{0,40}?[\"']([^\"'\\n]{1,300}\\.\\w{1,6})[\"']|could not read file (\\S{1,300}\\.\\w{1,6})"),
          Form.of(
              Kind.FILE,
              "path: |file: |File: |Path: |annot open ",
              "(?i:cannot open|could not open|cannot read|could not read|no such file)[^\\n]{0,200}\\n\\s*(?i:path|file|filename|file name): ?[\"']?(\\S{1,300}\\.\\w{1,6})[\"']?$|[Cc]annot open (?:file )?`([^'\\n]{1,300})'"),
          Form.of(
              Kind.FILE,
              "to find|to open|to read|to load|to locate|to access|annot find|annot open|annot read|annot load|annot locate|annot access|not find|not open|not read|not load|n't find|n't open|n't load|n't read",
              "\\b(?:[Uu]nable to|[Ff]ailed to|[Cc]annot|[Cc]ould not|[Cc]ouldn't|[Cc]an't) (?:find|open|read|load|locate|access)(?: or open)?(?: the)?(?: (?:file|directory|resource|path|fixture|template|asset|data ?set|document|image))?(?: or directory)?:? [\"'`]([^\"'`\\n]{0,200}[\\w-]\\.[A-Za-z]\\w{1,4})[\"'`]"),
          // Parts that were to be injected
          Form.of(Kind.BEAN, "fixture '", "\\bfixture '(\\w+)' not found"),
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
              "ClassNotFound|NoClassDefFound|No module named|annot find module|annot find package|cannot load such file|uninitialized constant|not load file or assembly|undefined symbol|ndefined reference|unresolved import|to resolve import|NoSuchMethodError|NoSuchFieldError|cannot import name|shared object file|MissingMethodException|no such module|no such target|ntry for package|Class \"|Could not find class",
              "ClassNotFoundException: ([\\w.$]+)|NoClassDefFoundError: (?:Could not initialize class )?([\\w./$]+)|No module named '?([\\w.]+)|annot find (?:module|package) '([^'\\n]+)'|cannot load such file -- (\\S+)|uninitialized constant ([\\w:]+)|load file or assembly '([\\w.]+)|undefined symbol: (\\S+)|[Uu]ndefined reference to [`']([^'\\n]+)'|unresolved import `([^`]+)`|to resolve import \"([^\"\\n]+)\"|NoSuch(?:Method|Field)Error: '?(?:[\\w.<>\\[\\]]+ )?([\\w.$/]+)|cannot import name '(\\w+)'|(\\S+?): cannot open shared object file|Method not found: '[^']*?([\\w.]+)\\(|resolve entry for package \"([^\"\\n]+)\"|no such module '(\\w+)'|no such (?:target|package) '([^'\\n]{2,200})'|Class \"([\\w\\\\]+)\" (?:not found|does not exist)"),
          Form.of(
              Kind.MODULE,
              "ndefined function|nrecognized function|nknown function|ndefined procedure|nknown command|nrecognized command|nknown procedure|ndefined subroutine|not installed",
              "\\b(?:[Uu]ndefined|[Uu]nrecognized|[Uu]nknown) (?:function|procedure|command|subroutine)(?: or variable)?:? [\"'`&]?([A-Za-z_][\\w.:!?-]{1,100})|(?:[Aa]pp|[Pp]ackage|[Mm]odule|[Pp]lugin|[Ee]xtension|[Ll]ibrary|[Tt]ool) [\"'`]?([\\w@][\\w.@/-]{1,100}?)[\"'`]?(?:: the \\w{1,20})? is not installed"),
          Form.of(
              Kind.MODULE,
              ": unbound |: undefined",
              "^(?:\\S{1,200}:\\d+:\\d+: )?([\\w!?*<>=/-]{2,80}): (?:unbound (?:identifier|variable)$|undefined;?$)"),
          Form.of(
              Kind.MODULE,
              "Could not find |\" not found",
              "^(?:===SORRY!===\\s*)?Could not find ([A-Za-z]\\w*(?:::\\w+){1,8})(?: at line \\d+)? in:|\\b(?i:component|system|package|module|library|dependency) \"([\\w@./:-]{2,100})\" not found"),
          // Settings
          Form.of(
              Kind.SETTING,
              "must set|not provided for|\" is not set",
              "\\b(?:variable|parameter|option|input|setting) \"([A-Za-z][\\w.-]{2,100})\" is not set\\b|(?:must set|not provided for)(?: the)?(?: required)?(?: \\w{1,20})? (?:variable|setting|option|parameter) [\"'`]?([A-Za-z][\\w.-]{2,100})"),
          Form.of(Kind.SETTING, "ariable '", "[Vv]ariable '([$@&]\\{[^}'\\n]{1,80}\\})' not found"),
          Form.of(
              Kind.SETTING,
              "validation error",
              "validation errors? for \\w+\\n\\s*([A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+)$"),
          Form.of(
              Kind.SETTING,
              "env|not set",
              "\\b([A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+) (?:(?:is |was )?not set\\b|(?:was |is )?(?:not found|missing|undefined|required)\\b[^\\n]{0,60}\\benv)"),
          Form.of(
              Kind.SETTING,
              "KeyError|key not found|environ|env.|ENV[|getenv|NotPresent",
              "(?:KeyError: '|key not found: \"|KeyError: key not found: \"|environ\\[['\"]|process\\.env\\.|ENV\\[['\"]|getenv\\(['\"]|env(?:ironment)? var(?:iable)? [`'\"]?)([A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+)\\b"),
          Form.of(
              Kind.SETTING,
              "laceholder|nvironment variable|onfiguration|onfig|roperty|etting|env var|secret|feature flag|Feature flag",
              "resolve placeholder '([\\w.-]+)|[Ee]nvironment variables? [\"'`$]?\\{?([A-Z][A-Z0-9_]{2,60})|(?:[Cc]onfig(?:uration)?|[Pp]roperty|[Ss]etting|[Pp]arameter|[Ss]ecret|[Oo]ption|[Ff]eature flag|env var)(?: key| value| property| named| for)? [\"'`]([\\w.:-]{3,100})[\"'`] (?:is |was )?(?:not|missing|required|undefined|unset|unknown|empty|null)|(?:[Mm]issing|[Uu]nknown|[Rr]equired)(?: required)? (?:config(?:uration)?|property|setting|environment variable|parameter|secret|option|feature flag|key|env var)s?(?: key| value| property| named)?:? [\"'`]?([A-Za-z][\\w.:-]{2,100})"));

  private MissingForms() {}
}
