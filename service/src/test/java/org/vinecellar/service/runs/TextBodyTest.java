package org.vinecellar.service.runs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.core.runs.ResultCursor;
import org.vinecellar.core.runs.RunQuery;

/** Words and texts on their way in and out. */
class TextBodyTest {
  @Test
  void aLongTextIsCutUnlessAllOfItIsWanted() {
    String text = "x".repeat(TextBody.SHOWN + 1);

    assertThat(TextBody.of(text, false))
        .isEqualTo(new TextBody("x".repeat(TextBody.SHOWN), TextBody.SHOWN + 1, true));
    assertThat(TextBody.of(text, true)).isEqualTo(new TextBody(text, text.length(), false));
    assertThat(TextBody.of("short", false)).isEqualTo(new TextBody("short", 5, false));
    assertThat(TextBody.of(null, false)).isNull();
  }

  @Test
  void aCharacterIsNotCutInTwo() {
    String ship = "🚢";
    String text = "x".repeat(TextBody.SHOWN - 1) + ship + "y";

    assertThat(TextBody.of(text, false))
        .isEqualTo(new TextBody("x".repeat(TextBody.SHOWN - 1), text.length(), true));
  }

  @Test
  void aCursorIsReadAsItWasWritten() {
    for (boolean failing : new boolean[] {true, false}) {
      ResultCursor cursor = new ResultCursor(failing, new ResultId(3, 41_000));
      assertThat(Words.cursor(cursor.encode(), ResultCursor::decode)).contains(cursor);
    }
    for (String forged : List.of("", "x", "AAAA", "1-2", "%00", "9".repeat(500))) {
      assertThatThrownBy(() -> Words.cursor(forged, ResultCursor::decode))
          .as(forged)
          .isInstanceOf(CellarException.class);
      assertThatThrownBy(() -> Words.cursor(forged, RunQuery.Cursor::decode))
          .as(forged)
          .isInstanceOf(CellarException.class);
    }
  }
}
