package org.vinecellar.core.filters;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class FilterParserTest {
  private static final Filter.Marks MARKS = new Filter.Marks(0, 0);

  /** Each production of RFC 7644, figure 1, and how it is bound: text, and the same made plain. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        // attrExp: presence and each operator, whatever the case
        "outcome pr | outcome pr",
        "outcome PR | outcome pr",
        "outcome eq \"failed\" | outcome eq \"failed\"",
        "Outcome Ne \"failed\" | Outcome ne \"failed\"",
        "name co \"quay\" | name co \"quay\"",
        "name sw \"quay\" | name sw \"quay\"",
        "name ew \"quay\" | name ew \"quay\"",
        "attempts gt 1 | attempts gt 1",
        "attempts ge 1 | attempts ge 1",
        "attempts lt 1 | attempts lt 1",
        "attempts le 1 | attempts le 1",
        // compValue: false, null, true, number, string
        "open eq false | open eq false",
        "category eq null | category eq null",
        "open eq TRUE | open eq true",
        "duration gt -0.50e+1 | duration gt -5",
        "duration gt 0 | duration gt 0",
        "duration gt 5000 | duration gt 5000",
        "duration gt 1e40 | duration gt 1E+40",
        "name eq \"\" | name eq \"\"",
        "name eq \"a\\\"b\\\\c\\/d\\n\\t\\u00e9\" | name eq \"a\\\"b\\\\c/d\\n\\té\"",
        // attrPath: URI, attribute, sub-attribute
        "label.team eq \"fares\" | label.team eq \"fares\"",
        "urn:ietf:params:x:2.0:Run:label.team-2_b pr | urn:ietf:params:x:2.0:Run:label.team-2_b pr",
        // logExp: and before or; groups; not before and
        "a pr or b pr and c pr | a pr or b pr and c pr",
        "(a pr or b pr) and c pr | (a pr or b pr) and c pr",
        "a pr or (b pr and c pr) | a pr or b pr and c pr",
        "((a pr)) | a pr",
        "a pr and (b pr and c pr) | a pr and b pr and c pr",
        "not (a pr) and b pr | not (a pr) and b pr",
        "NOT(a pr OR b pr) AND c pr | not (a pr or b pr) and c pr",
        "not (not (a pr)) | not (not (a pr))",
        // valuePath and valFilter
        "results[outcome eq \"failed\"] | results[outcome eq \"failed\"]",
        "results [ a pr or not (b pr) ] and c pr | results[a pr or not (b pr)] and c pr",
        "results[steps[text co \"x\"] and a pr] | results[steps[text co \"x\"] and a pr]",
      })
  void readsTheGrammar(String text, String plain) {
    Filter filter = FilterParser.parse(text);
    assertThat(FilterParser.text(filter)).isEqualTo(plain);
    assertThat(FilterParser.parse(plain)).isEqualTo(filter);
  }

  /** The examples of RFC 7644, section 3.4.2.2, as they stand there. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "userName eq \"bjensen\"",
        "name.familyName co \"O'Malley\"",
        "userName sw \"J\"",
        "urn:ietf:params:scim:schemas:core:2.0:User:userName sw \"J\"",
        "title pr",
        "meta.lastModified gt \"2011-05-13T04:42:34Z\"",
        "meta.lastModified ge \"2011-05-13T04:42:34Z\"",
        "meta.lastModified lt \"2011-05-13T04:42:34Z\"",
        "meta.lastModified le \"2011-05-13T04:42:34Z\"",
        "title pr and userType eq \"Employee\"",
        "title pr or userType eq \"Intern\"",
        "schemas eq \"urn:ietf:params:scim:schemas:extension:enterprise:2.0:User\"",
        "userType eq \"Employee\" and (emails co \"example.com\" or emails.value co \"example.org\")",
        "userType ne \"Employee\" and not (emails co \"example.com\" or emails.value co \"example.org\")",
        "userType eq \"Employee\" and (emails.type eq \"work\")",
        "userType eq \"Employee\" and emails[type eq \"work\" and value co \"@example.com\"]",
        "emails[type eq \"work\" and value co \"@example.com\"] or ims[type eq \"xmpp\" and value co \"@foo.com\"]",
      })
  void readsTheExamplesOfTheRfc(String text) {
    String plain = text.replace("(emails.type eq \"work\")", "emails.type eq \"work\"");
    assertThat(FilterParser.text(FilterParser.parse(text))).isEqualTo(plain);
  }

  @Test
  void theTreeIsWhatIsWritten() {
    assertThat(FilterParser.parse("not (a.b eq 1 or c pr) and r[d ne null]"))
        .isEqualTo(
            new Filter.All(
                List.of(
                    new Filter.Not(
                        new Filter.Any(
                            List.of(
                                new Filter.Compared(
                                    path("a", "b"),
                                    Operator.EQ,
                                    new Filter.Number(BigDecimal.ONE),
                                    MARKS),
                                new Filter.Present(path("c", null))))),
                    new Filter.Within(
                        path("r", null),
                        new Filter.Compared(
                            path("d", null), Operator.NE, new Filter.Nothing(), MARKS)))));
  }

  private static Filter.Path path(String name, @Nullable String sub) {
    return new Filter.Path(null, name, sub, 0);
  }

  /** Input, and what is said of it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "`` | 1: the filter ends here, where a name, “not” or “(” could",
        "outcome | 8: the filter ends here, where eq, ne, co, sw, ew, gt, ge, lt, le or pr could",
        "outcome eqq 1 | 9: “eqq” stands here, where eq, ne, co, sw, ew, gt, ge, lt, le or pr"
            + " could; did you mean “eq”?",
        "outcome eq | 11: the filter ends here, where a text in quotes, a number, true, false or"
            + " null could",
        "outcome eq failed | 12: “failed” stands here, where a text in quotes, a number, true,"
            + " false or null could",
        "outcome eq \"failed | 12: the text that begins here has no quote at its end",
        "a eq \"x\\q\" | 8: a backslash in a text is written twice, as in \"C:\\\\quay\"",
        "a eq 01 | 6: “01” is no number as JSON writes them; put texts in quotes",
        "a eq 2026-11-20 | 6: “2026-11-20” is no number as JSON writes them; put texts in quotes",
        "a pr b pr | 6: “b” stands here, where “and”, “or” or the end could",
        "a pr and | 9: the filter ends here, where a name, “not” or “(” could",
        "(a pr | 6: the filter ends here, where “and”, “or” or “)” could",
        "a[b pr | 7: the filter ends here, where “and”, “or” or “]” could",
        "a pr) | 5: “)” stands here, where “and”, “or” or the end could",
        "not a pr | 5: “a” stands here, where “(”: what is denied stands in parentheses, as in"
            + " not (…), could",
        "a.b.c pr | 1: “a.b.c” is no name: names have letters, digits, “-” and “_”, and at most"
            + " one dot",
        "\"a\" pr | 1: a text in quotes stands here, where a name, “not” or “(” could",
        "x:a pr | 1: “x” before the colon is no URI",
      })
  void saysWhereItDoesNotUnderstand(String text, String message) {
    assertThatThrownBy(() -> FilterParser.parse(text))
        .isInstanceOf(FilterException.class)
        .hasMessage("filter, position " + message);
  }

  @ParameterizedTest
  @ValueSource(strings = {"(", "not (", "a["})
  void endsBeforeItIsTooMuch(String deeper) {
    String deep = deeper.repeat(3_900 / deeper.length());
    assertThatThrownBy(() -> FilterParser.parse(deep))
        .isInstanceOf(FilterException.class)
        .hasMessageContaining("at most 30 deep");
    assertThatThrownBy(() -> FilterParser.parse("a pr" + " or a pr".repeat(300)))
        .hasMessageContaining("at most 200 comparisons");
    assertThatThrownBy(() -> FilterParser.parse(" ".repeat(4_001)))
        .hasMessageContaining("at most 4000 characters");
    assertThatThrownBy(() -> FilterParser.parse("a eq 1e9999"))
        .hasMessageContaining("is no number");
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4, 5})
  void whatIsWrittenIsReadAgain(int seed) {
    Random random = new Random(seed);
    for (int i = 0; i < 2_000; i++) {
      Filter filter = filter(random, 4);
      String text = FilterParser.text(filter);
      assertThat(FilterParser.parse(text)).as(text).isEqualTo(filter);
    }
  }

  /** Nothing that is thrown at it makes it fail otherwise than by its own word. */
  @Test
  void anyTextIsReadOrRefused() {
    Random random = new Random(7);
    String letters = "ab.:- \"\\u()[]0129eE+-\n\ttrueandornotpr\uD83D";
    int read = 0;
    for (int i = 0; i < 20_000; i++) {
      StringBuilder text = new StringBuilder(random.nextBoolean() ? "a pr or " : "");
      for (int n = random.nextInt(20); n > 0; n--) {
        text.append(letters.charAt(random.nextInt(letters.length())));
      }
      try {
        Filter filter = FilterParser.parse(text.toString());
        assertThat(FilterParser.parse(FilterParser.text(filter))).isEqualTo(filter);
        read++;
      } catch (FilterException e) {
        assertThat(e.at()).isBetween(0, text.length());
      }
    }
    assertThat(read).isPositive();
  }

  private static Filter filter(Random random, int depth) {
    return switch (depth == 0 ? random.nextInt(2) : random.nextInt(6)) {
      case 0 -> new Filter.Present(somePath(random));
      case 1 ->
          new Filter.Compared(
              somePath(random), Operator.values()[random.nextInt(9)], value(random), MARKS);
      case 2 -> new Filter.Not(filter(random, depth - 1));
      case 3 -> new Filter.Within(somePath(random), filter(random, depth - 1));
      case 4 -> new Filter.All(several(random, depth, Filter.All.class));
      default -> new Filter.Any(several(random, depth, Filter.Any.class));
    };
  }

  private static List<Filter> several(Random random, int depth, Class<?> notThese) {
    List<Filter> filters = new ArrayList<>();
    while (filters.size() < 2 || random.nextInt(3) == 0) {
      Filter one = filter(random, depth - 1);
      if (!notThese.isInstance(one)) {
        filters.add(one);
      }
    }
    return filters;
  }

  private static Filter.Path somePath(Random random) {
    String[] names = {"a", "And", "not", "label", "or-x", "pr_2", "true"};
    String name = names[random.nextInt(2) == 0 ? 0 : 3 + random.nextInt(3)];
    return new Filter.Path(
        random.nextInt(5) == 0 ? "urn:x:2.0" : null,
        name,
        random.nextInt(3) == 0 ? names[random.nextInt(names.length)] : null,
        0);
  }

  private static Filter.Value value(Random random) {
    return switch (random.nextInt(4)) {
      case 0 -> new Filter.Number(BigDecimal.valueOf(random.nextLong(), random.nextInt(30) - 9));
      case 1 -> new Filter.Bool(random.nextBoolean());
      case 2 -> new Filter.Nothing();
      default -> {
        StringBuilder text = new StringBuilder();
        for (int n = random.nextInt(6); n > 0; n--) {
          text.append("aé\"\\/\n\t\u0001\uD83D ".charAt(random.nextInt(10)));
        }
        yield new Filter.Text(text.toString());
      }
    };
  }
}
