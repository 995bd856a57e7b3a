package org.vinecellar.core.triage.checks;

import java.util.List;
import org.vinecellar.core.triage.checks.Subject.Kind;

/** What is seen: what lies over an element, elements, pictures and kept texts. */
final class ElementForms {
  static final List<Form> FORMS =
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
          // What was to be drawn
          Form.of(
              Kind.COMPONENT,
              "occurred in ",
              "error occurred in (?:the |one of your )?<?([A-Z]\\w{1,100})>? component"),
          // Elements, of which any sentence says how they are
          Form.of(
              Kind.LOCATOR,
              " is visible| is not visible| is displayed| is not displayed| is enabled| is not enabled",
              "^(?:[\\w.$]*(?:Error|Exception): )?(?:Assertion(?: is false| failed)?:? ?)?[\"'`]?(\"[^\"\\n]{1,160}\"|(?:id|text|label|name)[:=] ?[^\\s\"'`]{1,100}|[#.][\\w-]{2,80}) is (?:not )?(?:visible|displayed|enabled)\\b"),
          Form.of(
              Kind.LOCATOR,
              "lement not found: |o such element: |o element found: |o element matching: ",
              "(?:[Ee]lement not found|[Nn]o such element|[Nn]o element found|[Nn]o element matching): (?!Unable to locate|\\{)(?:[Tt]ext|[Ii]d|[Ll]abel)?(?: matching regex: | matching: )?([^\\n{]{2,200}?)(?: \\(|$)"),
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
          Form.of(
              Kind.LOCATOR,
              "with the text: |with the text of: ",
              "((?:element with the text: |label with the text of: )[^\\n]{2,200}?)(?:\\. This could|, however |$)"),
          Form.of(
              Kind.LOCATOR,
              "for object ",
              "\\bpredicate [^\\n]{1,200}? for object (\\w{1,20}(?:\\.\\w{1,30}(?:\\[[^\\]\\n]{1,200}\\])?){1,6}|\"[^\"\\n]{1,200}\" \\w+)"),
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
              "(?:[Ee]xpected to find element: ?`([^`]{1,300})`|Unable to find (?:an? )?(?:accessible )?(?:element|label|role|[a-z ]{0,30}?(?:button|link|field|css|xpath|selector|checkbox|option))(?: (?:with|by))?(?: the)?(?: (?:text|role|label text|alt text|title|placeholder text|display value|by|css|xpath|id))?:? [\\[]?[\"`']([^\"`'\\n]{1,300})[\"`']|Unable to find element by: \\[(.{1,300})\\]$|expected to find (?:[a-z]+ ){1,4}\"([^\"\\n]{1,300})\"|Unable to find (?:an element with )?role=[\"']([\\w-]{1,40})[\"']|find element(?: with)?(?: (?:css|xpath|id|locator))? [\"'`]([^\"'`\\n]{1,300})[\"'`])"),
          Form.of(
              Kind.LOCATOR,
              "lement not found {|lement should ",
              "lement (?:not found|should (?:not )?(?:be|have) [^\\n{]{1,80}) \\{(.{1,300}?)\\}$"),
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
              "XCTAssert",
              "XCTAssert\\w+ failed - (\"[^\"\\n]{1,200}\" \\w+|\\w{1,20}(?:\\.\\w{1,30}(?:\\[[^\\]\\n]{1,200}\\])?){1,6}) (?:does not|did not|does|did|is not|not|should|never|was not)\\b"),
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
              "^\\s*(?:[Tt]arget|[Ll]ocator|[Ss]elector|[Ee]lement|[Cc]ontrol|[Ww]idget)\\s*[:=]\\s*((?!['\"]?<)\\S.{0,300})$"),
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
              "([\\w.-]{1,150}?)(?:-(?:linux|darwin|win32|chromium|firefox|webkit|expected|actual|diff|received)){0,4}\\.(?:png|approved\\.\\w+|verified\\.\\w+|received\\.\\w+|golden|snap)\\b|(?:golden(?: file)?|baseline|approval|[Ss]creenshot) [\"'`]([^\"'`\\n]{1,200})[\"'`]"));

  private ElementForms() {}
}
