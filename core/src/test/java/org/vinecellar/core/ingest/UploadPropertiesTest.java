package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.TestResult;

/** What holds of every upload, whatever its files repeat: told on random ones. */
class UploadPropertiesTest {
  private static final String[] CHILDREN = {
    "",
    "",
    "<failure message='f'>trace</failure>",
    "<error message='e'/>",
    "<skipped message='s'/>",
    "<flakyFailure message='first'/>",
    "<failure message='f'/><rerunFailure message='again'/>",
  };

  /** Few suites and names, so that most of them come again. */
  private static String[] files(Random random) {
    String[] files = new String[1 + random.nextInt(4)];
    for (int f = 0; f < files.length; f++) {
      StringBuilder xml = new StringBuilder("<testsuites>");
      for (int s = random.nextInt(4); s >= 0; s--) {
        xml.append("<testsuite name='s").append(random.nextInt(3)).append("'>");
        for (int c = random.nextInt(8); c > 0; c--) {
          xml.append("<testcase name='t").append(random.nextInt(4));
          xml.append("' time='").append(random.nextInt(3)).append("'>");
          xml.append(CHILDREN[random.nextInt(CHILDREN.length)]).append("</testcase>");
        }
        xml.append("</testsuite>");
      }
      files[f] = xml.append("</testsuites>").toString();
    }
    return files;
  }

  @RepeatedTest(400)
  void everyTestIsHandedOnOnceAndTheCountsAreThoseOfWhatStands(RepetitionInfo info) {
    String[] files = files(new Random(info.getCurrentRepetition()));
    Recording recording = new Recording();
    UploadReport report = recording.read(files);

    Set<Key128> keys = new HashSet<>();
    recording.results.forEach(result -> assertThat(keys.add(result.test().key())).isTrue());
    Map<Integer, Outcome> standing = new HashMap<>();
    List<List<Attempt>> attempts = new ArrayList<>();
    for (int i = 0; i < recording.results.size(); i++) {
      TestResult result = recording.results.get(i);
      standing.put(i, result.outcome());
      attempts.add(new ArrayList<>(result.attempts()));
    }
    for (ResultSink.Again again : recording.again) {
      standing.put(again.ordinal(), again.standing());
      List<Attempt> before = attempts.get(again.ordinal());
      assertThat(before).as("attempts are numbered on").hasSize(again.firstAttempt());
      before.addAll(again.attempts());
    }

    var total = report.total();
    assertThat(total.tests()).isEqualTo(recording.results.size());
    assertThat(total.failing())
        .isEqualTo((int) standing.values().stream().filter(Outcome::isFailing).count());
    assertThat(total.passed())
        .isEqualTo((int) standing.values().stream().filter(o -> o == Outcome.PASSED).count());
    assertThat(total.retried())
        .isEqualTo((int) attempts.stream().filter(tries -> tries.size() > 1).count());
  }

  @RepeatedTest(100)
  void aFailureIsNeverHidden(RepetitionInfo info) {
    Random random = new Random(5000 + info.getCurrentRepetition());
    String[] files = files(random);
    Recording recording = new Recording();
    int before = recording.read(files).total().failing();

    // One more test that fails, somewhere: it must show, whatever surrounds it.
    int at = random.nextInt(files.length);
    files[at] =
        files[at].replace(
            "</testsuites>",
            "<testsuite name='s0'><testcase name='new'><failure/></testcase></testsuite>"
                + "</testsuites>");

    assertThat(new Recording().read(files).total().failing()).isEqualTo(before + 1);
  }

  @RepeatedTest(60)
  void theSameFilesMeanTheSameEveryTime(RepetitionInfo info) {
    String[] files = files(new Random(9000 + info.getCurrentRepetition()));
    Recording one = new Recording();
    Recording two = new Recording();

    assertThat(one.read(files)).isEqualTo(two.read(files));
    assertThat(one.results).isEqualTo(two.results);
    assertThat(one.again).isEqualTo(two.again);
  }
}
