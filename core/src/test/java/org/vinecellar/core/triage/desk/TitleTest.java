package org.vinecellar.core.triage.desk;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.triage.signature.KeyKind;

/** What a failure group is called. */
class TitleTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "FRAME | thrown in `A.b` as `C` | no fare for # | no fare for # | thrown in A.b as C | true",
        "ENVIRONMENT | `fares-db` refuses | Connection refused | fares-db refuses | Connection refused | false",
        "CODE | the application answered `X` | POST # | The application answered X | POST # | false",
        "SUBJECT | `#notice` lies over it | ~~ | #notice lies over it | #notice lies over it | false",
        "TEXT | the error says the same | ~~ | The error says the same | the error says the same | false",
      })
  void isWhatNamesItElseItsError(
      KeyKind kind, String sentence, String template, String text, String beside, boolean error) {
    assertThat(Title.of(kind, sentence, template)).isEqualTo(new Title(text, beside, error));
  }

  @org.junit.jupiter.api.Test
  void linesThatSayNothingAreNoTitle() {
    assertThat(Title.of(KeyKind.TEST, "s", "\n ----- \n  # ==> \n  expected # \nmore").text())
        .isEqualTo("expected #");
  }
}
