package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Origin;

/** What a pipeline may say of an upload, and the exact words when it may not. */
class UploadRequestTest {
  private static final String NOT_A_NAME =
      "” is not a name; use one to three words of letters, digits, '.', '_' and '-', parted by '/',"
          + " as in booking-api/nightly, and 250 characters at most";

  private static UploadRequest stream(String stream) {
    return new UploadRequest(
        new UploadRequest.Target(1, stream, null, UploadRequest.PartKey.NONE),
        Origin.UNKNOWN,
        Map.of(),
        null,
        null,
        null,
        CsvColumns.NONE,
        false);
  }

  private static UploadRequest with(String field, @Nullable String value) {
    boolean label = field.startsWith("label ");
    return new UploadRequest(
        new UploadRequest.Target(
            1,
            "s",
            field.equals("run key") ? value : null,
            UploadRequest.PartKey.named(field.equals("part name") ? value : null)),
        new Origin(
            field.equals("commit") ? value : null,
            field.equals("branch") ? value : null,
            field.equals("build URL") ? value : null),
        label && value != null ? Map.of(field.substring(6), value) : Map.of(),
        null,
        null,
        null,
        CsvColumns.NONE,
        false);
  }

  private static void refused(Runnable call, String message) {
    assertThatThrownBy(call::run)
        .isInstanceOfSatisfying(
            CellarException.class, e -> assertThat(e.code()).isEqualTo(ProblemCode.INVALID_VALUE))
        .hasMessage(message);
  }

  @ParameterizedTest
  @ValueSource(strings = {"nightly", "booking-api/nightly", "a/b/c", "Höfn_2.0/x", "v1..2", ".a"})
  void streamsThatAreTaken(String name) {
    assertThat(stream(name).target().stream()).isEqualTo(name);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "a b", "/a", "a/", "a//b", "a/b/c/d", "a#1", "a?b", "..", "a/../b", "./a", "a%2Fb",
        "\u00011"
      })
  void streamsThatAreRefused(String name) {
    refused(() -> stream(name), "the stream “" + name + NOT_A_NAME);
  }

  @Test
  void aLongNameIsCutInTheMessage() {
    refused(() -> stream("x".repeat(300)), "the stream “" + "x".repeat(100) + "…" + NOT_A_NAME);
  }

  @ParameterizedTest
  @CsvSource({
    "run key, 300",
    "part name, 300",
    "commit, 200",
    "branch, 300",
    "label team, 200",
  })
  void textsHaveALength(String field, int most) {
    with(field, "x".repeat(most));
    String message = "the " + field + " is empty or longer than " + most + " characters";
    refused(() -> with(field, "x".repeat(most + 1)), message);
    refused(() -> with(field, " "), message);
    refused(() -> with(field, "a\u0000b"), "the " + field + " holds a control character");
    refused(() -> with(field, "a\u001B[31m"), "the " + field + " holds a control character");
  }

  @ParameterizedTest
  @ValueSource(strings = {"javascript:alert(1)", "ftp://x", "//x", "http://a b", "HTTP://x", "x"})
  void aBuildAddressIsOneOfTheWeb(String address) {
    refused(
        () -> with("build URL", address),
        "the build URL “" + address + "” does not begin with http or https");
    with("build URL", "https://builds.example/7?x=y#z");
  }

  @Test
  void labelsAreWordsAndNotTooMany() {
    with("label team.x_1-2", "anything = goes");
    refused(
        () -> with("label a b", "x"),
        "the label “a b” is not a word of letters, digits, '.', '_' and '-' (write key=value)");
    Map<String, String> many = new HashMap<>();
    for (int i = 0; i <= 50; i++) {
      many.put("k" + i, "v");
    }
    refused(
        () ->
            new UploadRequest(
                new UploadRequest.Target(1, "s", null, UploadRequest.PartKey.NONE),
                Origin.UNKNOWN,
                many,
                null,
                null,
                null,
                CsvColumns.NONE,
                false),
        "51 labels are too many; at most 50 are taken");
  }

  @ParameterizedTest
  @ValueSource(ints = {0, -1, 10_001})
  void partsToExpectHaveTheirBounds(int parts) {
    refused(
        () ->
            new UploadRequest(
                new UploadRequest.Target(1, "s", null, UploadRequest.PartKey.NONE),
                Origin.UNKNOWN,
                Map.of(),
                parts,
                null,
                null,
                CsvColumns.NONE,
                false),
        "the number of parts to expect is " + parts + "; it goes from 1 to 10000");
  }
}
