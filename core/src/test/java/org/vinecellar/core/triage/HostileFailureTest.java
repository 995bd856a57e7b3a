package org.vinecellar.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/** Texts that nobody would write, and somebody sends. */
class HostileFailureTest {
  private static final TestId TEST =
      TestId.of(SuitePath.of(List.of("org.skerrow.FareTest")), "rounds", null);

  private static Signature sign(String type, String message, String trace) {
    return new Signer(CodeMap.of(List.of("org.skerrow.FareTest"), CodeSettings.NONE))
        .sign(TEST, List.of(new Failure(type, message, trace)));
  }

  @Test
  void theRootOfAChainIsFoundHoweverLongItIs() {
    StringBuilder trace = new StringBuilder("org.skerrow.DeskException: no\n");
    for (int i = 0; i < 20_000; i++) {
      trace.append("\tat org.skerrow.Desk.serve(Desk.java:" + i + ")\n");
      trace.append("Caused by: org.skerrow.WrapException: number " + i + "\n");
    }
    trace.append("Caused by: java.lang.ArithmeticException: / by zero\n");
    trace.append("\tat org.skerrow.Fares.rounded(Fares.java:7)\n");
    assertThat(sign("x", "no", trace.toString()).key()).isEqualTo("frame fares.rounded|arithmetic");
  }

  @Test
  void fiftyThousandFramesHaveATop() {
    String trace =
        "java.lang.StackOverflowError\n"
            + "\tat org.skerrow.Tide.height(Tide.java:3)\n".repeat(50_000);
    assertThat(sign("java.lang.StackOverflowError", null, trace).key())
        .isEqualTo("frame tide.height|stackoverflow");
  }

  @Test
  void aMessageOfMegabytesIsReadWithoutBeingKept() {
    Signature signature = sign("E", "deck \u0000\u001b[31m full ".repeat(400_000), null);
    assertThat(signature.key().length()).isLessThan(10_000);
    assertThat(signature.words()).contains("deck", "full");
  }

  /** A place is looked for in its line, and not in all the lines that follow it. */
  @ParameterizedTest
  @ValueSource(strings = {"File \"/app/fares.py", "at org.skerrow.Fares", "at a.B(C.java:1"})
  void manyLinesThatBeginLikePlacesAreReadOnce(String line) {
    String text = (line + "\n").repeat(400_000);
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(30), () -> assertThat(sign("E", null, text).key()).isNotEmpty());
  }

  @Test
  void nothingAtAllIsTheTest() {
    Signature signature =
        new Signer(CodeMap.of(List.of(), CodeSettings.NONE)).sign(TEST, List.of());
    assertThat(signature.key()).isEqualTo("test org.skerrow.FareTest#rounds|");
  }

  /** Built so that expressions which try every way would not end. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "(((((((((((((((((((",
        "<<<<<<<<<<>>>>>>>>>",
        "at a.a.a.a.a.a.a.a.a.a.a.a(",
        "a:a:a:a:a:1:1:1:1:",
        "File \"a\", line 1, in ",
        "expected expected got got ",
        "waiting for waiting for ",
        "://a://a://a",
        "a-a-a-a-1-1-1-1.",
        "----> ---> --> ",
        " at .a.b.c.d.e.f",
        "in file a.b line ",
        "Failing step: a ... ",
        "Actual   (  ",
        "resolve dependencies of argument ",
        "calls that WERE NOT fulfilled: ",
        "a ..... ",
        "KeyError: 'A_B_",
        "requires a access to \"",
        "lement not found {",
        "error AB-",
        "{\"code\":{\"code\":",
        "#0 #1 #2 0x0 0x0 (",
        "in `in `in `",
        "==1==ERROR: ",
        "\"\"\"\"\"\"\"''''''",
        "status 500 status 500 ",
        "{a,b,[[c],[{file,\"a.erl\"},{line,",
        "called called expected a to be called ",
        "at=a.a where=a.a \"in\": \"a.b",
        "in a (a.c:1 in a (b",
        "a.c:1: a: a.c:1 ",
        "pool pool - pool: pool ( pool ",
        "host=a port= hub:b port=",
        "covered by: covered by the element ",
        "Fatal error: a.swift:1: Fatal error: file a.swift, ",
        "| +-+- 1 --- | + Exception Group Traceback ",
        "s3://a AccessDenied s3://b ",
        "[a] [b] [c] at [d] ",
        "raised : a.b (c+0x1 raised : ",
        "#aaa [data-a=b //a[b] element ",
        "attempt 1 of 1 attempt 2/2 retry #3 ",
        "Setup failed: XCTAssertNil failed: caught error \"",
        "GenServer.call(A.B, GenServer.call(C.D, ",
        "Given a When b Then c ",
        "* \"a\" (unique_constraint * \"b",
        "Abcdef: 1 != Abcdef: 2 == ",
        "with id|name \"a\" with id|title 'b' ",
        "Element 'a' Element 'b is 'c ",
        "right: `a`: right: `b",
        "Expected a.b to Expected c.d had size ",
        "Assert.A failed. Expected Actual:<a>. Assert.B failed. ",
        "thread 'a' panicked at 'b', c.rs:1:1', ",
        "a (b.feature:1 (c.feature:2) ",
        "caught error: AError.b(caught error: \"A.b(",
        "image a/b:1@c:image a/b:1@c:manifest for ",
        "/a.b.Cc/D /a.b.Cc/",
        "invalid_grant OAuth token FATAL: connection to server at ",
        "NoSuchBucket bucket= s3:// BucketName",
        "collection: a.b index: c_1 collection: ",
        "404 [A-B] 409: A_B: 500 (A-B",
        "faultcode faultcode>a faultcode=",
        "getByRole(a, { name: getByRole(",
        "role a and name role b and name ",
        "a' does not exist on type '\"a\" (class ",
        "\"path\": [\"a\", \"b\", \"path\": [",
        "FAIL aaaa ASSERT bbbb xpecte",
        "Failed test 'a Failed test b' ✗ aaaa ✗ ",
        "When(\"a snippet Given(/a^b$ ",
        "(InstanceDouble(A (a)).b(InstanceDouble(C",
        "[data-a=\"b selector \"[c=\"d",
        " at a.pm line at b.t line died: ",
        "a, called at b.hs:1:1 in a, called at ",
        "MATCHER(a == \"b MATCHER(\"c",
        "{value: 200} found {value: 4 {value: ",
        "expected: (a (b (c expected: ("
      })
  void noTextHoldsTheReaderUp(String part) {
    String line = part.repeat(20_000 / part.length());
    String text = (line + "\n").repeat(20);
    assertThat(sign(line, text, text).key()).isNotEmpty();
    assertThat(sign(null, text.replace('\n', ' '), null).key()).isNotEmpty();
    String bounded = (part.repeat(900 / part.length()) + "\n").repeat(40);
    assertThat(sign(bounded, null, bounded).key()).isNotEmpty();
  }

  /** Megabytes of lines that each may be a place, and are none. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "at| |:1",
        "at| x|:1",
        "at|  a|: ",
        "[1]|\t|: ",
        "in| |(x:1)",
        "|a.|:1",
        "|a:1|",
        "#1 |a#b|",
        "'|\"x|' :1",
        "|f(|:1)",
        "|a<b|>(:1",
        "|a->b| #1",
        "|line |:1",
        "1: (|a.b:1 (|)",
        "in method |a::| line 1",
        "raised |A.| : x:1",
        "[|[|] in A>>b:1>>",
        "ORA-06512: at \"|A.|\", line 1",
        "|A-|ERROR: 1"
      })
  void manyLinesAreReadInTime(String shape) {
    String[] parts = shape.split("\\|", 3);
    String line = parts[0] + parts[1].repeat(280 / parts[1].length()) + parts[2];
    StringBuilder text = new StringBuilder();
    for (int i = 0; i < 15_000; i++) {
      text.append(line).append(i).append('\n');
    }
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(30), () -> assertThat(sign("E", null, text.toString())).isNotNull());
  }

  /** As many errors as there are tests, all of one cause, or each of its own. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void aNightOfManyErrorsIsGroupedInTime(boolean oneCause) {
    List<Signature> night = new ArrayList<>();
    for (int i = 0; i < 40_000; i++) {
      String name = "Berth" + Integer.toString(i, 26).replaceAll("[0-9]", "x") + "q" + i;
      night.add(
          new Signature(
              KeyKind.FRAME,
              "frame " + (oneCause ? "Berths.free" : name),
              List.of("run:" + name, "text " + name),
              List.of(),
              "thrown in `Berths.free`",
              List.of("berth", name),
              "no berth " + name,
              true));
    }
    Grouping.Result[] result = new Grouping.Result[1];
    Assertions.assertTimeoutPreemptively(
        Duration.ofSeconds(60),
        () -> result[0] = Grouping.of(Grouping.settled(night), key -> List.of()));
    assertThat(result[0].of()).hasSize(oneCause ? 1 : night.size());
  }
}
