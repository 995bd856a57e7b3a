package org.vinecellar.core.formats;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.results.AuthorId;

/** An ID that the author of a test gave it is read as docs/TRUST.md says, of each framework. */
class AuthorIdFormatsTest {
  private final Recording recording = new Recording();

  @ParameterizedTest
  @ValueSource(
      strings = {
        // pytest's record_property, PHPUnit and others
        "<testsuite name='s'><testcase classname='s' name='a'><properties>"
            + "<property name='test_id' value='FARE-17'/></properties></testcase></testsuite>",
        "<testsuite name='s'><testcase classname='s' name='a'><properties>"
            + "<property name='testId' value=' FARE-17 '/></properties></testcase></testsuite>",
        // NUnit
        "<test-run id='2'><test-suite type='TestFixture' classname='s'><test-case name='a'"
            + " classname='s' result='Passed'><properties><property name='test_id'"
            + " value='FARE-17'/></properties></test-case></test-suite></test-run>",
        "<test-run id='2'><test-suite type='TestFixture' classname='s'><test-case name='a'"
            + " classname='s' result='Passed'><properties><property name='Category'"
            + " value='id:FARE-17'/></properties></test-case></test-suite></test-run>",
        // xUnit.net
        "<assemblies><assembly name='/b/F.dll'><collection name='c'><test name='s.a' type='s'"
            + " method='a' time='0.1' result='Pass'><traits><trait name='test_id'"
            + " value='FARE-17'/></traits></test></collection></assembly></assemblies>",
        // Robot Framework
        "<robot generator='Robot 7.1'><suite name='s'><test name='a'><tag>id:FARE-17</tag>"
            + "<status status='PASS'/></test></suite></robot>",
        // TestNG
        "<testng-results><reporter-output/><suite name='all'><groups><group name='id:FARE-17'>"
            + "<method name='a' class='s'/></group></groups><test name='t'><class name='s'>"
            + "<test-method name='a' status='PASS'/></class></test></suite></testng-results>",
        // Cucumber
        "[{\"uri\":\"s.feature\",\"keyword\":\"Feature\",\"name\":\"s\",\"elements\":[{"
            + "\"keyword\":\"Scenario\",\"type\":\"scenario\",\"name\":\"a\",\"tags\":[{\"name\":"
            + "\"@id:FARE-17\"}],\"steps\":[{\"keyword\":\"Given \",\"name\":\"b\",\"result\":"
            + "{\"status\":\"passed\",\"duration\":1}}]}]}]",
        // Playwright
        "{\"config\":{\"rootDir\":\"/w\"},\"suites\":[{\"title\":\"a.spec.ts\",\"file\":\"a.spec.ts\",\"specs\":[{"
            + "\"title\":\"a\",\"ok\":true,\"tags\":[\"@id:FARE-17\"],\"tests\":[{\"expectedStatus\":"
            + "\"passed\",\"projectName\":\"\",\"annotations\":[],\"results\":[{\"status\":"
            + "\"passed\",\"duration\":3,\"retry\":0}]}]}]}],\"errors\":[]}",
        // our own events
        "{\"event\":\"test started\",\"id\":\"1\",\"suite\":[\"s\"],\"test\":\"a\","
            + "\"tags\":[\"id:FARE-17\"]}\n{\"event\":\"test finished\",\"id\":\"1\","
            + "\"outcome\":\"passed\"}\n",
        // CSV
        "suite,name,status,test_id\ns,a,passed,FARE-17\n",
      })
  void isRead(String text) {
    assertThat(recording.read(text).unreadable()).isEmpty();
    assertThat(recording.results).isNotEmpty();
    assertThat(AuthorId.of(recording.results.get(0).tags())).contains("id:FARE-17");
  }

  @ParameterizedTest
  @ValueSource(strings = {"", " ", "of-more-than-150-letters"})
  void whatIsNoneIsLeft(String value) {
    String id = value.length() > 2 ? value.repeat(10) : value;
    recording.read(
        "<testsuite name='s'><testcase classname='s' name='a'><properties>"
            + "<property name='test_id' value='"
            + id
            + "'/></properties></testcase></testsuite>");
    assertThat(recording.results.get(0).tags()).isEmpty();
  }
}
