package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Jobs that fail outside of their tests, or leave nothing: none of them is green. */
@OnSharedPortal
class JobTest {
  private static final String GREEN =
      "<testsuite name='Quay'><testcase name='boards'/></testsuite>";

  private final Portal portal = Portal.shared();
  private @TempDir Path work;

  private JsonNode run(String stream) {
    return portal.get("/api/v1/projects/main/runs?stream=" + stream).path(0);
  }

  private JsonNode job(JsonNode run) {
    return portal
        .get("/api/v1/projects/main/runs/" + run.path("id").asLong() + "/parts")
        .path(0)
        .path("job");
  }

  /** A command of the shell; what it ends with, and what the portal has then. */
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "fine    | cp green.xml out.xml                    | 0   | 1 | 0 | passed | ",
        "red     | cp red.xml out.xml; exit 1              | 1   | 0 | 0 | failed | ",
        "late    | cp green.xml out.xml; exit 3            | 3   | 1 | 1 | failed | ",
        "nothing | echo no berth >&2; exit 7               | 7   | 0 | 1 | failed | ",
        "empty   | : > out.xml; exit 1                     | 1   | 0 | 1 | failed | ",
        "half    | head -c 60 green.xml > out.xml; exit 1  | 1   | 1 | 1 | failed | ",
        "killed  | cp green.xml out.xml; kill -9 $$        | 137 | 1 | 1 | failed | signal 9",
      })
  void whatACommandLeavesIsSentWhateverCameOfIt(
      String name, String command, int code, int passed, int setUps, String status, String signal)
      throws IOException {
    Files.writeString(work.resolve("green.xml"), GREEN);
    Files.writeString(
        work.resolve("red.xml"),
        GREEN.replace("name='boards'/>", "name='b'><failure/></testcase>"));
    String stream = "jobs/" + name;
    Shell.Result ended =
        portal.vine(
            work, "exec", "--stream", stream, "--files", "out*.xml", "--", "sh", "-c", command);

    assertThat(ended.code()).as(ended.err()).isEqualTo(code);
    JsonNode run = run(stream);
    JsonNode counts = run.path("counts");
    assertThat(counts.path("passed").asInt()).isEqualTo(passed);
    assertThat(counts.path("setUps").asInt()).isEqualTo(setUps);
    assertThat(counts.path("failed").asInt()).isEqualTo(name.equals("red") ? 1 : 0);
    JsonNode job = job(run);
    assertThat(job.path("status").asText()).isEqualTo(status);
    assertThat(job.path("exitCode").asInt()).isEqualTo(code);
    assertThat(job.path("command").asText()).isEqualTo("sh -c " + command);
    assertThat(job.path("signal").asText(null)).isEqualTo(signal);
    assertThat(job.path("durationMs").asLong()).isBetween(0L, 60_000L);
    if (setUps > 0) {
      assertThat(ended.out()).contains("▲ errored  (the job as a whole)  (new)");
    }
  }

  /** A pipeline that ends the job: the command is told, and what it left is sent. */
  @Test
  void aSignalIsPassedOnAndTheRestIsSent() throws IOException {
    Files.writeString(work.resolve("green.xml"), GREEN);
    String command = "cp green.xml out.xml; trap 'exit 9' TERM; kill -TERM $PPID; sleep 60 & wait";
    Shell.Result ended =
        portal.vine(
            work,
            "exec",
            "--stream",
            "jobs/ended",
            "--files",
            "out.xml",
            "--",
            "sh",
            "-c",
            command);
    assertThat(ended.code()).as(ended.err()).isEqualTo(9);
    JsonNode run = run("jobs/ended");
    assertThat(run.path("counts").path("passed").asInt()).isEqualTo(1);
    assertThat(run.path("counts").path("setUps").asInt()).isEqualTo(1);
    assertThat(job(run).path("status").asText()).isEqualTo("cancelled");
  }

  @Test
  void filesFromBeforeTheCommandAreNotItsResults() throws IOException {
    Path old = Files.writeString(work.resolve("old.xml"), GREEN);
    Files.setLastModifiedTime(old, FileTime.from(Instant.now().minusSeconds(3600)));
    Shell.Result ended =
        portal.vine(work, "exec", "--stream", "jobs/old", "--files", "*.xml", "--", "true");
    assertThat(ended.code()).isEqualTo(3);
    assertThat(ended.err())
        .contains("1 file is older than the command and not sent")
        .contains("the command left no result file that matches *.xml. Nothing was sent.");
    assertThat(portal.vine(work, "exec", "--files", "x", "--", "true").code()).isEqualTo(2);
    for (String[] wrong :
        new String[][] {
          {"--retry-for", "0s"}, {"--files", "["}, {"--at", "2199-01-01T00:00:00Z"}
        }) {
      Shell.Result refused =
          portal.vine(
              work,
              "exec",
              "--stream",
              "jobs/old",
              wrong[0],
              wrong[1],
              "--files",
              "x",
              "--",
              "touch",
              "ran");
      assertThat(refused.code()).as(wrong[0]).isEqualTo(2);
      assertThat(work.resolve("ran")).as("a wrong call shows before the tests run").doesNotExist();
    }
    Shell.Result none =
        portal.vine(work, "exec", "--stream", "jobs/old", "--files", "x", "--", "no-such-command");
    assertThat(none.code()).isEqualTo(127);
    assertThat(none.err()).contains("the command “no-such-command” could not be run");
    assertThat(run("jobs/old").path("counts").path("setUps").asInt()).isEqualTo(1);
    // It may well take as many milliseconds as before, and is another run all the same.
    Shell.Result again =
        portal.vine(work, "exec", "--stream", "jobs/old", "--files", "x", "--", "no-such-command");
    assertThat(again.out())
        .contains("1 failing as before")
        .contains("(the job as a whole)")
        .contains("the job failed with exit code 127, and left no results");
    Shell.Result died =
        portal.vine(
            work, "exec", "--stream", "jobs/matrix", "--files", "{jdk}/*.xml", "--", "false");
    assertThat(died.code()).isEqualTo(1);
    assertThat(died.out()).contains("the job failed with exit code 1, and left no results");
    Shell.Result odd =
        portal.vine(
            work,
            "exec",
            "--stream",
            "jobs/odd",
            "--files",
            "*.txt",
            "--",
            "sh",
            "-c",
            "echo > a.txt");
    assertThat(odd.code()).as("what it left cannot be read").isEqualTo(4);
  }

  @Test
  void aPushCanSayThatItsJobFailed() throws IOException {
    Files.writeString(work.resolve("green.xml"), GREEN);
    String[] push = {"push", "green.xml", "--stream", "jobs/push", "--fail-on", "failing"};
    assertThat(portal.vine(work, push).code()).isZero();
    Shell.Result red =
        portal.vine(
            work,
            "push",
            "none*.xml",
            "--stream",
            "jobs/push",
            "--job-status",
            "failure",
            "--fail-on",
            "new");
    assertThat(red.code()).as(red.err()).isEqualTo(10);
    assertThat(red.out()).startsWith("jobs/push#2  1 set-up failed (0 tests in 0 files)");
    assertThat(run("jobs/push").path("changes").path("newFailing").asInt()).isEqualTo(1);
    Shell.Result wrong =
        portal.vine(work, "push", "green.xml", "--stream", "jobs/push", "--job-status", "meh");
    assertThat(wrong.code()).isEqualTo(2);
    assertThat(wrong.err()).contains("the job status “meh” is none of passed, failed, cancelled");
  }

  @Test
  void whatFailedUnderAnotherNameIsNotNew() throws IOException {
    List<Shell.Result> pushed = new ArrayList<>();
    for (String name : List.of("refusesExpiredSeasonPass", "refusesAnExpiredSeasonPassAtTheGate")) {
      String file = name + ".xml";
      Files.writeString(
          work.resolve(file),
          "<testsuite name='quay.Gate'><testcase name='opens' time='2'/><testcase name='"
              + name
              + "' time='0.3'><failure message='the gate stayed open'/></testcase>"
              + "<testcase name='closes' time='1'/></testsuite>");
      pushed.add(
          portal.vine(
              work,
              "push",
              file,
              "--stream",
              "jobs/renamed",
              "--branch",
              "main",
              "--fail-on",
              "new"));
    }
    assertThat(pushed.get(0).code()).isEqualTo(10);
    assertThat(pushed.get(1).out())
        .contains("1 new failing, 1 gone")
        .contains("refusesAnExpiredSeasonPassAtTheGate  (new)")
        .containsPattern(
            "after a second look: 1 failing as before\\R.*refusesAnExpiredSeasonPassAtTheGate\\R");
    assertThat(pushed.get(1).code()).as(pushed.get(1).err()).isZero();
  }
}
