package org.vinecellar.client.command;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/**
 * The client against whatever may stand where the portal should be: its code and its words. The
 * portal itself is met in the tests of the whole.
 */
class VineTest {
  private static final String TOKEN = "vine_main_abcdefghijklmnopqrstuvwx";

  private @TempDir Path work;
  private HttpServer server;
  private final AtomicReference<String> seen = new AtomicReference<>("");
  private volatile int status = 201;
  private String type = "application/json";
  private String body = "{}";
  private final List<String> forms = new CopyOnWriteArrayList<>();

  @BeforeEach
  void serve() throws IOException {
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/",
        exchange -> {
          seen.set(
              exchange.getRequestMethod()
                  + " "
                  + exchange.getRequestURI()
                  + " "
                  + exchange.getRequestHeaders().getFirst("Authorization"));
          // What is answered is settled before anybody can know of the request.
          int answered = status;
          forms.add(
              new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.ISO_8859_1));
          byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
          exchange.getResponseHeaders().set("Content-Type", type);
          exchange.sendResponseHeaders(answered, bytes.length == 0 ? -1 : bytes.length);
          exchange.getResponseBody().write(bytes);
          exchange.close();
        });
    server.start();
    Files.writeString(
        work.resolve("r.xml"), "<testsuite name='s'><testcase name='a'/></testsuite>");
  }

  @AfterEach
  void stop() {
    server.stop(0);
  }

  private record Ended(int code, String out, String err) {}

  private Ended vine(Map<String, String> environment, String... words) {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    int code =
        VineCommand.run(
            words,
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8),
            environment);
    return new Ended(
        code, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
  }

  private Map<String, String> environment() {
    return new HashMap<>(
        Map.of(
            "VINE_URL",
            "http://127.0.0.1:" + port(),
            "VINE_TOKEN",
            TOKEN,
            "VINE_SPOOL",
            work.resolve("spool").toString(),
            "VINE_RETRY_FOR",
            "0"));
  }

  private int port() {
    return server.getAddress().getPort();
  }

  private Ended push(String... more) {
    List<String> words =
        new ArrayList<>(List.of("push", work.resolve("r.xml").toString(), "--stream", "s"));
    words.addAll(List.of(more));
    return vine(environment(), words.toArray(String[]::new));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "200 | text/html | <html>Sign in</html> | 6 | is not the portal (its answer is not JSON)",
        "302 | text/html | moved | 5 | is not the portal, or stands before it: HTTP 302",
        "403 | text/html | <h1>Forbidden</h1> | 5 | is not the portal, or stands before it: HTTP 403",
        "413 | text/html | <h1>Too Large</h1> | 5 | the upload is larger than",
        "502 | text/html | <h1>Bad Gateway</h1> | 6 | is not the portal, or stands before it: HTTP"
            + " 502",
        "503 | application/problem+json |"
            + " {\"type\":\"urn:vine-cellar:problem:unavailable\",\"detail\":\"too many uploads are"
            + " waiting\"} | 6 | too many uploads are waiting",
        "500 | application/json | {\"message\":\"boom\"} | 6 | stands before it: HTTP 500",
        "400 | application/problem+json |"
            + " {\"type\":\"urn:vine-cellar:problem:invalid-value\",\"detail\":\"the label is"
            + " odd\"} | 5 | the label is odd",
        "422 | application/problem+json |"
            + " {\"type\":\"urn:vine-cellar:problem:no-tests\",\"detail\":\"no test in it\"} | 3 |"
            + " no test in it",
        "422 | application/problem+json |"
            + " {\"type\":\"urn:vine-cellar:problem:unreadable-file\",\"detail\":\"r.xml ends too"
            + " early\",\"files\":[{\"file\":\"r.xml\",\"error\":\"ends too early\"},"
            + "{\"file\":\"t.xml\",\"error\":\"is empty\"}]} | 4 | t.xml is empty",
        "204 | application/json | `` | 6 | is not the portal",
      })
  void everyAnswerButAReceiptIsAFailure(
      int answered, String contentType, String answer, int code, String message) {
    status = answered;
    type = contentType;
    body = answer;

    Ended ended = push();

    assertThat(ended.err()).startsWith("vine: ").contains(message);
    assertThat(ended.code()).isEqualTo(code);
    assertThat(ended.out()).isEmpty();
  }

  @Test
  void whatFailsIsJsonTooWhenThatIsWanted() {
    status = 502;
    Ended ended = push("--json");

    assertThat(ended.out()).startsWith("{\"error\":\"what answers at http://127.0.0.1:");
    assertThat(ended.out()).contains("\"spooled\":true,\"exitCode\":6}");
    assertThat(ended.err()).contains("The upload waits in " + work.resolve("spool"));
  }

  @Test
  void aConnectionThatBreaksIsAPortalThatIsNotReached() throws IOException {
    try (ServerSocket closing = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
      Thread closer = new Thread(() -> closeFirst(closing));
      closer.start();
      Map<String, String> environment = environment();
      environment.put("VINE_URL", "http://127.0.0.1:" + closing.getLocalPort());

      Ended ended = vine(environment, "push", work.resolve("r.xml").toString(), "--stream", "s");

      assertThat(ended.code()).isEqualTo(6);
      assertThat(ended.err()).contains("the connection to http://127.0.0.1:");
    }
  }

  private static void closeFirst(ServerSocket server) {
    try {
      server.accept().close();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "VINE_URL | ftp://portal | is not an address that begins with http:// or https://",
        "VINE_URL | portal.example | is not an address that begins with http:// or https://",
        "VINE_TOKEN | secret | the token does not look like one",
        "VINE_TOKEN | vine_main_with blank | the token does not look like one",
      })
  void settingsThatCannotBeRightAreSaidBeforeAnythingIsSent(
      String variable, String value, String message) {
    Map<String, String> environment = environment();
    environment.put(variable, value);

    Ended ended = vine(environment, "push", work.resolve("r.xml").toString(), "--stream", "s");

    assertThat(ended.code()).isEqualTo(2);
    assertThat(ended.err()).contains(message);
    assertThat(seen.get()).isEmpty();
  }

  /** What a table lacks is told before the portal could only refuse it. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "Title;Verdict | --column=test=Titel | has no column “Titel”; its columns are “Title”",
        "Title;Verdict;By | --part=p | which columns hold the test and its outcome is not known",
        "Test;Result;Time | --part=p | does not tell whether “Time” 12 is seconds or milliseconds",
      })
  void aTableThatCannotBeReadIsNotSent(String head, String option, String message)
      throws IOException {
    Path table = work.resolve("manual.csv");
    Files.writeString(
        table, head + (head.split(";").length == 2 ? "\nramp;ok\n" : "\nramp;ok;12\n"));
    Ended ended = vine(environment(), "push", table.toString(), "--stream", "s", option);

    assertThat(ended.code()).isEqualTo(2);
    assertThat(ended.err()).contains(table + " ", message, "Nothing was sent.");
    assertThat(seen.get()).isEmpty();
  }

  @Test
  void aTimeThatIsYetToComeIsNotSent() {
    Ended ended = push("--at", "2199-01-01T00:00:00Z");

    assertThat(ended.code()).isEqualTo(2);
    assertThat(ended.err()).contains("--at is 2199-01-01T00:00:00Z, which is in the future");
    assertThat(seen.get()).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "move a/b --to c | name the run by its number, as in a/b#12, or all of them by --all",
        "move a/b#3 --all --to c | --all is of a whole stream; name it without a number",
        "delete a/b | name the run by its number",
        "delete a/b#3 --all --for-good | --all is of a whole stream",
        "move a/b#3 | Missing required option",
        "rename a/b | Missing required parameter",
      })
  void whatIsChangedForGoodIsNamedInFull(String call, String message) {
    Ended ended = vine(environment(), call.split(" "));

    assertThat(ended.code()).isEqualTo(2);
    assertThat(ended.err()).contains(message);
    assertThat(seen.get()).isEmpty();
  }

  @Test
  void optionsWinOverTheEnvironment() {
    Map<String, String> environment = environment();
    environment.put("VINE_URL", "http://127.0.0.1:1");

    vine(
        environment,
        "runs",
        "--stream",
        "a b&c",
        "--url",
        "http://127.0.0.1:" + port() + "/",
        "--token",
        "vine_other-project_abcdefghijklmnopqrstuvwx");

    assertThat(seen.get())
        .startsWith("GET /api/v1/projects/other-project/runs?")
        .contains("stream=a+b%26c")
        .endsWith("Bearer vine_other-project_abcdefghijklmnopqrstuvwx");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "booking-api/nightly | stream=booking-api%2Fnightly",
        "booking-api/nightly#12 | number=12",
        "nightly#7 | number=7",
      })
  void aRunIsNamedByItsStreamAndNumber(String named, String asked) {
    body = "[]";
    Ended ended = vine(environment(), "show", named);

    assertThat(seen.get()).startsWith("GET /api/v1/projects/main/runs?").contains(asked);
    assertThat(ended.code()).isEqualTo(3);
    assertThat(ended.err()).contains(named.replaceAll("#.*", ""));
  }

  @Test
  void aRunThatIsNoneIsAWrongCall() {
    Ended ended = vine(environment(), "show", "a stream");

    assertThat(ended.code()).isEqualTo(2);
    assertThat(ended.err()).contains("“a stream” is not a run; write it as booking-api/nightly#12");
  }

  private List<Path> waiting() throws IOException {
    try (var all = Files.list(work.resolve("spool"))) {
      return all.filter(Files::isDirectory).sorted().toList();
    }
  }

  @Test
  void whatCannotBeSentWaitsAndIsSentLaterInOrder() throws IOException {
    status = 503;
    assertThat(push("--commit", "c1", "--spool-ok").code()).isZero();
    assertThat(push("--commit", "c2").code()).isEqualTo(6);
    assertThat(waiting()).hasSize(2);

    Files.delete(work.resolve("r.xml"));
    assertThat(vine(environment(), "flush").code()).isEqualTo(6);
    assertThat(waiting()).as("still there").hasSize(2);

    status = 201;
    forms.clear();
    Ended flushed = vine(environment(), "flush");

    assertThat(flushed.code()).isZero();
    assertThat(flushed.out()).endsWith("2 uploads sent\n");
    assertThat(forms).hasSize(2);
    assertThat(forms.get(0)).contains("c1").contains("name=\"made\"").contains("r.xml\"");
    assertThat(forms.get(1)).contains("c2");
    assertThat(waiting()).isEmpty();
    assertThat(vine(environment(), "flush").out()).startsWith("nothing waits in ");
  }

  @Test
  void whatThePortalRefusesLaterIsPutAsideWithItsReason() throws IOException {
    status = 500;
    push();
    status = 422;
    type = "application/problem+json";
    body = "{\"type\":\"urn:vine-cellar:problem:no-tests\",\"detail\":\"holds no test\"}";

    Ended flushed = vine(environment(), "flush");

    assertThat(flushed.code()).isEqualTo(5);
    assertThat(flushed.err()).contains("an upload to s was refused: holds no test");
    Path refused = work.resolve("spool/refused");
    try (var all = Files.walk(refused)) {
      assertThat(all.filter(p -> p.toString().endsWith(".reason.txt")).findFirst())
          .get()
          .satisfies(file -> assertThat(file).hasContent("holds no test"));
    }
  }

  /** One that cannot be read keeps no other from being sent. */
  @Test
  void aDamagedUploadIsPutAsideAndTheRestIsSent() throws IOException {
    status = 503;
    push("--commit", "c1", "--spool-ok");
    push("--commit", "c2", "--spool-ok");
    Path first = waiting().get(0);
    Files.writeString(first.resolve("upload.json"), "{");
    assertThat(push("--commit", "c3", "--spool-ok").err()).doesNotContain("cannot be read");

    status = 201;
    forms.clear();
    Ended flushed = vine(environment(), "flush");

    assertThat(flushed.code()).isEqualTo(5);
    assertThat(flushed.out()).endsWith("2 uploads sent, 1 put aside\n");
    assertThat(flushed.err()).contains(first + " is damaged: upload.json is not JSON");
    assertThat(forms).hasSize(2);
    assertThat(work.resolve("spool/refused").resolve(first.getFileName())).isDirectory();
    assertThat(vine(environment(), "flush").out()).startsWith("nothing waits in ");
  }

  @Test
  void aPortalThatComesBackInTimeGetsTheUploadAndNothingWaits() throws IOException {
    status = 502;
    Thread back =
        new Thread(
            () -> {
              while (forms.isEmpty()) {
                Thread.onSpinWait();
              }
              status = 201;
            });
    back.start();

    Ended pushed = push("--retry-for", "20");

    assertThat(pushed.code()).isZero();
    assertThat(pushed.err()).contains("; trying again in 500 ms");
    assertThat(forms).hasSizeGreaterThan(1);
    assertThat(waiting()).isEmpty();
  }

  @Test
  void whatAPipelineServerTellsNeedsNotBeSaid() {
    Map<String, String> environment = environment();
    environment.put("CI_COMMIT_SHA", "c0ffee");
    environment.put("CI_COMMIT_REF_NAME", "quay");
    environment.put("CI_MERGE_REQUEST_IID", "17");
    environment.put("BUILD_URL", "no address");
    environment.put("VINE_RUN", "4711");

    vine(environment, "push", work.resolve("r.xml").toString(), "--stream", "s", "--branch", "b");

    assertThat(forms.get(0))
        .contains("name=\"commit\"", "c0ffee", "change=17", "name=\"run\"", "4711")
        .containsPattern("name=\"branch\"[^\"]*\\bb\\b")
        .doesNotContain("quay", "build_url");
  }

  @Test
  void filesThatResultsNameAreSentBesideThem() throws IOException {
    Path shots = Files.createDirectories(work.resolve("shots"));
    Files.writeString(shots.resolve("quay.txt"), "what the quay looked like");
    Files.writeString(
        work.resolve("r.xml"),
        "<testsuite name='s'><testcase name='a'><system-out>[[ATTACHMENT|shots/quay.txt]]\n"
            + "[[ATTACHMENT|/etc/hostname]]</system-out></testcase></testsuite>");

    Ended named = push();
    assertThat(forms.get(0)).doesNotContain("what the quay");
    assertThat(named.err()).contains("2 attachments lie outside of the working directory");

    push("--attach", shots.toString());
    assertThat(forms.get(1)).contains("name=\"attachment\"; filename=\"" + shots + "/quay.txt\"");
    assertThat(forms.get(1)).contains("what the quay looked like");
    assertThat(push("--attach", work.resolve("nowhere").toString()).code()).isEqualTo(3);

    Path secret = Files.writeString(work.resolve("secret.txt"), "not for the portal");
    Files.createSymbolicLink(shots.resolve("link.txt"), secret);
    Files.createSymbolicLink(shots.resolve("again.txt"), shots.resolve("quay.txt"));
    Ended linked = push("--attach", shots.toString());
    assertThat(linked.err()).contains("1 link leads out of the attached directory");
    assertThat(forms.get(2)).contains("again.txt").doesNotContain("not for the portal");
  }

  @Test
  void anImportStopsWhenThePortalIsAwayAndGoesOnWhenOneFileIsRefused() throws IOException {
    for (String day : List.of("2024-01-02", "2024-01-01")) {
      Path folder = Files.createDirectories(work.resolve("old/" + day));
      Files.writeString(
          folder.resolve("r.xml"),
          "<testsuite name='s'><testcase name='" + day + "'/></testsuite>");
    }
    String[] words = {
      "import", work.resolve("old").toString(), "--layout", "{at}/*.xml", "--stream", "s"
    };
    status = 503;
    Ended away = vine(environment(), words);
    assertThat(away.code()).isEqualTo(6);
    assertThat(away.err()).contains("0 uploads were taken; the same command goes on from there");
    assertThat(forms).as("it did not go on").hasSize(1);
    assertThat(forms.get(0)).contains("2024-01-01T00:00:00Z", "import 2024-01-01");

    status = 422;
    type = "application/problem+json";
    body = "{\"type\":\"urn:vine-cellar:problem:unreadable-file\",\"detail\":\"r.xml is odd\"}";
    Ended odd = vine(environment(), words);
    assertThat(odd.err()).contains("s of 2024-01-01T00:00:00Z: r.xml is odd");
    assertThat(forms.size()).as("it went on").isGreaterThan(2);

    status = 400;
    body = "{\"type\":\"urn:vine-cellar:problem:invalid-value\",\"detail\":\"the label is odd\"}";
    int before = forms.size();
    assertThat(vine(environment(), append(words, "--label=odd")).code()).isEqualTo(5);
    assertThat(forms).as("it is odd for all of them").hasSize(before + 1);

    assertThat(vine(environment(), "import", "nowhere", "--layout", "{at}", "--stream", "s").code())
        .isEqualTo(3);
    Ended plan = vine(Map.of(), append(words, "--dry-run"));
    assertThat(plan.code()).as(plan.err()).isZero();
    assertThat(plan.out())
        .startsWith("s  2 runs from 2024-01-01 00:00 UTC to 2024-01-02 00:00 UTC");
  }

  private static String[] append(String[] words, String one) {
    List<String> all = new ArrayList<>(List.of(words));
    all.add(one);
    return all.toArray(String[]::new);
  }

  @Test
  void helpIsComplete() {
    Ended help = vine(Map.of(), "--help");
    assertThat(help.code()).isZero();
    assertThat(help.out()).contains("push", "check", "runs", "show", "6 portal not reachable");
    for (String command :
        List.of(
            ("push pipe exec check close flush import runs tests show groups history flaky filters quarantine plan fold wait triage export report describe overrule"
                    + " rename move delete")
                .split(" "))) {
      Ended ended = vine(Map.of(), command, "--help");
      assertThat(ended.code()).isZero();
      assertThat(ended.out()).startsWith("Usage: vine " + command).doesNotContain("\u001B");
    }
    assertThat(vine(Map.of()).code()).isEqualTo(2);
    assertThat(vine(Map.of(), "psuh", "x").err())
        .isEqualTo(
            "vine: there is no command “psuh”; did you mean “push”? There are push, pipe, exec, check,"
                + " close, flush, import, runs, tests, show, groups, history, flaky, filters, quarantine, plan, fold, wait, triage, export, report, describe, overrule, rename, move and delete\n");
    assertThat(vine(Map.of(), "help", "push").out()).startsWith("Usage: vine push");
    assertThat(vine(Map.of(), "help").out()).isEqualTo(help.out());
  }

  @Test
  void filesThatAreOlderThanTheJobAreNamed() throws IOException {
    Files.setLastModifiedTime(
        work.resolve("r.xml"), FileTime.from(Instant.parse("2026-11-20T03:00:00Z")));
    for (String started :
        List.of("2026-11-20T03:05:00Z", "2026-11-20T04:05:00+01:00", "1795143900")) {
      Map<String, String> job = environment();
      job.put("CI_JOB_STARTED_AT", started);
      Ended ended = vine(job, "push", work.resolve("r.xml").toString(), "--stream", "s");
      assertThat(ended.err())
          .as(started)
          .contains("1 file is older than this job, which began at 2026-11-20T03:05:00Z");
      job.put("CI_JOB_STARTED_AT", "2026-11-20T03:00:30Z");
      assertThat(vine(job, "push", work.resolve("r.xml").toString(), "--stream", "s").err())
          .as("clocks differ a little")
          .doesNotContain("older");
    }
  }
}
