package org.vinecellar.core.formats.dotnet;

import static org.assertj.core.api.Assertions.assertThat;

import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.ingest.Recording;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.results.Counts;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestResult;

/**
 * Files after the descriptions of their formats: the runners themselves do not install here, so
 * these are not what they wrote.
 */
class DotnetReadersTest {
  private final Recording recording = new Recording();

  private TestResult named(String name) {
    return recording.results.stream()
        .filter(result -> result.test().displayName().equals(name))
        .findFirst()
        .orElseThrow();
  }

  @Test
  void nunitTellsSetUpsCategoriesAndAttachments() {
    UploadReport report =
        recording.read(
            """
            <test-run id="2" result="Failed" total="6">
             <test-suite type="Assembly" name="Fares.dll" fullname="/b/Fares.dll" result="Failed">
              <test-suite type="TestFixture" name="FareTest" fullname="Skerrow.FareTest"
                  classname="Skerrow.FareTest" result="Failed" site="Child">
               <failure><message>One or more child tests had errors</message></failure>
               <test-case name="Rounds(2,&quot;½&quot;)" classname="Skerrow.FareTest"
                   result="Passed" duration="0.012" start-time="2026-11-20T06:00:00.0000000Z">
                <properties><property name="Category" value="smoke"/>
                 <property name="Berth" value="B"/></properties>
                <output><![CDATA[moored]]></output>
                <attachments><attachment><filePath>shots/a.png</filePath>
                 <description>the quay</description></attachment></attachments></test-case>
               <test-case name="Half" classname="Skerrow.FareTest" result="Failed">
                <failure><message>Expected: 12.50 But was: 12.40</message>
                 <stack-trace>at Skerrow.FareTest.Half() in F.cs:line 7</stack-trace></failure>
               </test-case>
               <test-case name="Throws" classname="Skerrow.FareTest" result="Failed" label="Error">
                <failure><message>System.Exception : no berth</message></failure></test-case>
               <test-case name="Winter" classname="Skerrow.FareTest" result="Skipped"
                   label="Ignored"><reason><message>no winter fares</message></reason></test-case>
              </test-suite>
              <test-suite type="TestFixture" name="NightTest" fullname="Skerrow.NightTest"
                  result="Failed" site="SetUp">
               <failure><message>no night boat</message></failure>
               <test-case name="Cabins" classname="Skerrow.NightTest" result="Failed"
                   site="Parent"><failure><message>OneTimeSetUp: no night boat</message></failure>
               </test-case>
               <test-case name="Maybe" classname="Skerrow.NightTest" result="Inconclusive"/>
              </test-suite></test-suite></test-run>
            """);

    assertThat(report.unreadable()).isEmpty();
    assertThat(report.files().get(0).format()).isEqualTo("nunit3-xml");
    assertThat(report.total()).isEqualTo(new Counts(1, 1, 1, 2, 1, 0, 1));
    TestResult rounds = named("Rounds(2,\"½\")");
    assertThat(rounds.test().parameters()).isEqualTo("(2,\"½\")");
    assertThat(rounds.test().suite().names()).containsExactly("Skerrow.FareTest");
    assertThat(rounds.tags()).containsExactly("smoke");
    assertThat(rounds.durationMicros()).isEqualTo(12_000);
    assertThat(rounds.properties()).containsEntry("Berth", "B");
    assertThat(rounds.attempts().get(0).attachments().get(0).path()).isEqualTo("shots/a.png");
    assertThat(named("Winter").attempts().get(0).firstLine()).isEqualTo("no winter fares");
    assertThat(named("Cabins").outcome()).isEqualTo(Outcome.NOT_REACHED);
    assertThat(recording.results)
        .filteredOn(result -> result.kind() == ResultKind.SETUP)
        .singleElement()
        .satisfies(r -> assertThat(r.attempts().get(0).firstLine()).isEqualTo("no night boat"));
  }

  @Test
  void xunitTellsAssertionsFromOtherExceptions() {
    UploadReport report =
        recording.read(
            """
            <assemblies timestamp="11/20/2026 06:00:00">
             <assembly name="/b/Fares.dll" test-framework="xUnit.net 2.9.0" environment="64-bit">
              <errors><error type="test-class-cleanup" name="Skerrow.NightTest">
               <failure exception-type="System.IO.IOException"><message>stuck</message></failure>
              </error></errors>
              <collection name="all">
               <test name="Skerrow.FareTest.Rounds(price: 3)" type="Skerrow.FareTest"
                   method="Rounds" time="0.0123" result="Pass">
                <traits><trait name="Category" value="smoke"/><trait name="Team" value="fares"/>
                </traits></test>
               <test name="Skerrow.FareTest.Half" type="Skerrow.FareTest" method="Half"
                   time="0.5" result="Fail">
                <failure exception-type="Xunit.Sdk.EqualException"><message>Assert.Equal() Failure
             Expected: 12.50</message><stack-trace>at X</stack-trace></failure>
                <output>said</output></test>
               <test name="a name of its own" type="Skerrow.FareTest" method="Throws" result="Fail">
                <failure exception-type="System.NullReferenceException"><message>none</message>
                </failure></test>
               <test name="Skerrow.FareTest.Winter" type="Skerrow.FareTest" method="Winter"
                   result="Skip"><reason><![CDATA[no winter fares]]></reason></test>
              </collection></assembly></assemblies>
            """);

    assertThat(report.files().get(0).format()).isEqualTo("xunit-net-xml");
    assertThat(report.total()).isEqualTo(new Counts(1, 1, 1, 1, 0, 0, 1));
    assertThat(named("Rounds(price: 3)").tags()).containsExactly("smoke");
    assertThat(named("Rounds(price: 3)").properties()).containsEntry("Team", "fares");
    assertThat(named("Half").outcome()).isEqualTo(Outcome.FAILED);
    assertThat(named("a name of its own").outcome()).isEqualTo(Outcome.ERRORED);
    assertThat(report.properties()).containsEntry("xunit.net", "xUnit.net 2.9.0");
  }

  @Test
  void trxTakesClassesFromBehindTheResultsAndRowsFromWithin() {
    UploadReport report =
        recording.read(
            """
            <?xml version="1.0" encoding="UTF-8"?>
            <TestRun id="1" name="n" xmlns="http://microsoft.com/schemas/VisualStudio/TeamTest/2010">
             <Results>
              <UnitTestResult testId="t1" testName="Rounds" outcome="Passed"
                  duration="00:00:01.5000000" startTime="2026-11-20T06:00:00.0000000+00:00">
               <Output><StdOut>moored</StdOut></Output>
               <ResultFiles><ResultFile path="HOLM\\quay.png"/></ResultFiles></UnitTestResult>
              <UnitTestResult testId="t2" testName="Half" outcome="Failed">
               <Output><ErrorInfo><Message>Assert.AreEqual failed. Expected:&lt;12.50&gt;.</Message>
                <StackTrace>at Skerrow.FareTest.Half()</StackTrace></ErrorInfo></Output>
              </UnitTestResult>
              <UnitTestResult testId="t3" testName="Throws" outcome="Failed">
               <Output><ErrorInfo><Message>Test method Skerrow.FareTest.Throws threw exception: \
            System.Exception: none</Message></ErrorInfo></Output></UnitTestResult>
              <UnitTestResult testId="t4" testName="Rows" outcome="Failed"><InnerResults>
               <UnitTestResult testId="t4" testName="Rows (Holm)" outcome="Passed"/>
               <UnitTestResult testId="t4" testName="Rows (Æsvik)" outcome="Failed"/>
              </InnerResults></UnitTestResult>
              <UnitTestResult testId="t5" testName="Winter" outcome="NotExecuted"/>
             </Results>
             <TestDefinitions>
              <UnitTest name="Rounds" id="t1"><TestCategory><TestCategoryItem
                  TestCategory="smoke"/></TestCategory>
               <TestMethod className="Skerrow.FareTest, Fares, Version=1.0" name="Rounds"/></UnitTest>
              <UnitTest name="Half" id="t2"><TestMethod className="Skerrow.FareTest"/></UnitTest>
              <UnitTest name="Rows" id="t4"><TestMethod className="Skerrow.FareTest"/></UnitTest>
             </TestDefinitions>
             <ResultSummary outcome="Failed"><RunInfos><RunInfo outcome="Error">
              <Text>The active test run was aborted.</Text></RunInfo></RunInfos></ResultSummary>
            </TestRun>
            """);

    assertThat(report.files().get(0).format()).isEqualTo("trx");
    assertThat(report.total()).isEqualTo(new Counts(2, 2, 1, 1, 0, 0, 1));
    assertThat(report.files().get(0).brokenOff()).isTrue();
    TestResult rounds = named("Rounds");
    assertThat(rounds.test().suite().names()).containsExactly("Skerrow.FareTest");
    assertThat(rounds.tags()).containsExactly("smoke");
    assertThat(rounds.durationMicros()).isEqualTo(1_500_000);
    assertThat(rounds.attempts().get(0).attachments().get(0).name()).isEqualTo("quay.png");
    assertThat(named("Half").outcome()).isEqualTo(Outcome.FAILED);
    assertThat(named("Throws").outcome()).isEqualTo(Outcome.ERRORED);
    assertThat(named("Rows (Æsvik)").outcome()).isEqualTo(Outcome.FAILED);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      nullValues = "-",
      value = {
        ".NETCoreApp,Version=v8.0     | /b/Fares.dll                    | net8.0",
        ".NETCoreApp,Version=v3.1     | -                               | netcoreapp3.1",
        ".NETFramework,Version=v4.7.2 | -                               | net472",
        "Mono 9                       | -                               | Mono 9",
        "-  | /b/Debug/net6.0/Fares.dll                                 | net6.0",
        "-  | C:\\b\\Debug\\net8.0-windows\\Fares.dll                   | net8.0-windows",
        "-  | /b/network/Fares.dll                                      | -",
        "-  | /net/Fares.dll                                            | -",
      })
  void theFrameworkThatAnAssemblyIsForIsAVariant(
      @Nullable String moniker, @Nullable String path, @Nullable String variant) {
    assertThat(TargetFramework.of(moniker, path).words().get("framework")).isEqualTo(variant);
  }

  /** One fails where the other passes: two tests, in whatever order their files come. */
  @Test
  void theSameTestsForTwoFrameworksAreNoRetries() {
    String xunit =
        "<assemblies><assembly name='F.dll' target-framework='.NETCoreApp,Version=v6.0'><collection>"
            + "<test name='F.a' type='F' method='a' time='1' result='Fail'/></collection></assembly>"
            + "<assembly name='F.dll' target-framework='.NETCoreApp,Version=v8.0'><collection>"
            + "<test name='F.a' type='F' method='a' time='1' result='Pass'/></collection></assembly>"
            + "</assemblies>";
    String trx =
        "<TestRun><Results><UnitTestResult testId='1' testName='b' outcome='%s'/></Results>"
            + "<TestDefinitions><UnitTest id='1' storage='/b/%s/f.dll'><TestMethod"
            + " className='F'/></UnitTest></TestDefinitions></TestRun>";
    String nunit =
        "<test-run><test-suite type='Assembly' fullname='/b/%s/F.dll'><test-case name='c'"
            + " classname='F' result='%s'/></test-suite></test-run>";
    UploadReport report =
        recording.read(
            xunit,
            trx.formatted("Passed", "net8.0"),
            trx.formatted("Failed", "net6.0"),
            nunit.formatted("net6.0", "Failed"),
            nunit.formatted("net8.0", "Passed"));
    assertThat(report.total()).isEqualTo(new Counts(3, 3, 0, 0, 0, 0, 0));
    assertThat(recording.results)
        .extracting(
            result ->
                result.test().displayName()
                    + " "
                    + result.test().variant().words().get("framework"))
        .containsExactly("a net6.0", "a net8.0", "b net8.0", "b net6.0", "c net6.0", "c net8.0");
  }
}
