package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.results.TestResult;

/** A clock that is set back while tests run makes no test last less than nothing. */
class BackwardsClockTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{'event':'run','name':'r'}~{'event':'test started','id':'1','suite':['S'],'test':'a','time':'2026-11-20T06:00:05Z'}"
            + "~{'event':'test finished','id':'1','outcome':'passed','time':'2026-11-20T06:00:01Z'}~",
        "{'Time':'2026-11-20T06:00:05Z','Action':'run','Package':'p','Test':'A'}"
            + "~{'Time':'2026-11-20T06:00:01Z','Action':'pass','Package':'p','Test':'A','Elapsed':-4}"
            + "~{'Time':'2026-11-20T06:00:01Z','Action':'pass','Package':'p','Elapsed':-4}~",
        "<testsuite name='s' timestamp='2026-11-20T06:00:05'><testcase name='a' time='-3.5'/></testsuite>",
        "<testng-results><suite name='s'><test name='t'><class name='c.D'><test-method name='a' status='PASS'"
            + " duration-ms='-12' started-at='2026-11-20T06:00:05Z' finished-at='2026-11-20T06:00:01Z'/>"
            + "</class></test></suite></testng-results>",
        "<assemblies><assembly name='x.dll'><collection><test name='N.C.a' type='N.C' method='a' time='-1.5'"
            + " result='Pass'/></collection></assembly></assemblies>",
        "TAP version 14~1..1~ok 1 - a~  ---~  duration_ms: -20~  ...~",
        "{'version':'3','examples':[{'id':'1','description':'a','full_description':'g a','status':'passed','file_path':'./a.rb',"
            + "'line_number':1,'run_time':-0.5}],'summary':{'duration':-1}}",
      })
  void noTestLastsLessThanNothing(String text) {
    Recording recording = new Recording();
    String written = text.replace('~', '\n');
    recording.read(written.startsWith("<") ? written : written.replace('\'', '"'));

    assertThat(recording.results).isNotEmpty();
    assertThat(recording.results.get(0).durationMicros())
        .satisfiesAnyOf(
            micros -> assertThat(micros).isEqualTo(TestResult.NO_DURATION),
            micros -> assertThat(micros).isNotNegative());
  }
}
