package org.vinecellar.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.code.CodeSettings;
import org.vinecellar.core.triage.grouping.GroupKey;
import org.vinecellar.core.triage.grouping.Grouping;
import org.vinecellar.core.triage.grouping.KnownGroup;
import org.vinecellar.core.triage.signature.Signature;
import org.vinecellar.core.triage.signature.Signer;

/** What a failure is known by: one line for each thing that was once read wrongly. */
class KeysTest {
  private static Signature sign(String suite, String text) {
    TestId test = TestId.of(SuitePath.of(List.of(suite)), "opens", null);
    Failure failure = new Failure(null, text.lines().findFirst().orElse(""), text);
    return new Signer(CodeMap.of(List.of(suite), CodeSettings.NONE)).sign(test, List.of(failure));
  }

  @ParameterizedTest(name = "{1}")
  @CsvSource(
      delimiterString = "==>",
      quoteCharacter = '`',
      value = {
        // Packages of Go that are called as libraries are
        "panic: boom~goroutine 7 [running]:~a.example/kiosk/internal/fare.(*Tariff).Priced(0x0)~\t/app/internal/fare/tariff.go:12 +0x38 ==> frame go:tariff.priced|panic",
        "panic: boom~goroutine 7 [running]:~main.(*Tariff).Priced(0x0)~\t/app/tariff.go:12 +0x38 ==> frame go:tariff.priced|panic",
        // An error is not to blame for itself, nor is the class of the test
        "io.pier.SealedError: no~\tat io.pier.SealedError.of(SealedError.java:3)~\tat org.skerrow.Berths.free(Berths.java:9) ==> frame berths.free|sealed",
        "java.lang.IllegalStateException: no~\tat org.skerrow.Watch.opens(Watch.java:3)~\tat org.skerrow.Watch$1.run(Watch.java:9) ==> test org.skerrow.Watch#opens|no",
        // Access to a component is called after how it is done, perhaps by file and directory
        // together
        "Traceback (most recent call last):~  File \"/ci/tests/test_watch.py\", line 4, in test_opens~    go()~  File \"/ci/pier/desk/desk.py\", line 9, in total~    x()~  File \"/ci/pier/db/session.py\", line 12, in execute~    raise ValueError~ValueError: no row ==> frame py:desk.total|value",
        // Environment
        "ProxyError('Unable to connect to proxy', OSError('Tunnel connection failed: 407 Proxy Authentication Required')) for https://tides.example/x ==> environment login-refused|proxy",
        "ENOSPC: System limit for number of file watchers reached, watch '/app/src' ==> environment too-many-files|agent",
        "Connection refused (os error 111) at file://C:\\agent\\dial.ts ==> environment refused||",
        "(chrome:7): Gtk-WARNING **: cannot open display: :99 ==> environment no-display|agent",
        "java.lang.UnsupportedClassVersionError: a/B has been compiled by a more recent version of the Java Runtime ==> environment runtime-version|agent",
        "* Vault is sealed at https://key-vault.svc:8200/v1 ==> environment unavailable|key-vault",
        // Codes
        "HARBOUR FAULT HB-E204 : ramp 7 not ready ==> code HB-E204",
        "booking error BK-20931 not found in the list of today ==> text booking today",
        // What checks name
        "KeyError: 'LANE_API_KEY' ==> subject setting|LANE_API_KEY",
        "environment variable `LANE_API_KEY` must be set: NotPresent ==> subject setting|LANE_API_KEY",
        "Nest can't resolve dependencies of the Desk (?). Please make sure that the argument LaneFeed at index [0] is available ==> subject bean|LaneFeed",
        "could not read /app/data/fares.csv: Os { code: 2, kind: NotFound } ==> subject file|fares.csv",
        "Failed to resolve import \"lane_codes\" from \"src/desk.ts\". ==> subject module|lane_codes",
        "Golden \"goldens/lane_board.png\": Pixel test failed ==> subject snapshot|lane_board",
        "Element not found {#lane-sign}~Expected: visible ==> subject locator|#lane-sign",
        "No views in hierarchy found matching: view.getId() is <2131/com.kiosk:R.id.lane> ==> subject locator|view.getId() is <#/com.kiosk:R.id.lane>",
        "Verification failed: call 1 of 1: FareApi(#7).quote(any())) was not called ==> subject call|FareApi.quote",
        "No matching step definition found for the step. [When(@\"the ramp is lowered\")] ==> subject step|the ramp is lowered",
        "waited 300 ms for the seat chart to be drawn, gave up ==> subject awaited|seat chart",
        "DecodingFailure at .seats.window: Missing required field ==> subject field|seats.window",
        // Names of the domain for tests are no files
        "dial tcp: connect to harbour-db.pier.test:5432: connection refused ==> environment refused|harbour-db",
        "reqwest::Error { kind: Request, host: Some(Domain(\"pay-gate.pier.test\")), source: \"Connection refused\" } ==> environment refused|pay-gate",
        "A network-related or instance-specific error occurred while establishing a connection to SQL Server. ==> environment unreachable|mssql",
        "OperationalError: (2003, \"Can't connect to MySQL server on 'crew-db.pier.test' ([Errno 111] Connection refused)\") ==> environment refused|crew-db",
        "MongoTimeoutException: Timed out after 30000 ms while waiting for a server that matches ReadPreference. servers=[{address=mongo-1.pier.test:27017}] ==> environment connect-timeout|mongo",
        // Names in brackets, in escaped quotes, behind a status
        "** (Ecto.ConstraintError) constraint error when attempting to insert struct:~~    * \"berths_ship_fkey\" (foreign_key_constraint) ==> object constraint berths_ship_fkey",
        "Database(PgDatabaseError { message: \"duplicate key value violates unique constraint \\\"berths_key\\\"\" }) ==> object constraint berths_key",
        "io.grpc.StatusRuntimeException: FAILED_PRECONDITION: LANE_FULL ==> code LANE_FULL",
        // What stands around an error
        "Several failures occurred:~~1) Title should have been 'Board' but was 'Home'~~2) Teardown failed: WebDriverException: invalid session id ==> text board home title",
        "Parent suite setup failed:~Dictionary does not contain key 'lane'. ==> subject field|lane",
        "XCTAssertNoThrow failed: threw error \"FareError.noTable\" ==> subject case|FareError.noTable",
        "watch_test.go:12: ~  Error Trace:\t/src/watch_test.go:12~  Error:      \tReceived unexpected error:~              \tno berth left at the quay ==> text berth quay",
        "thread 'opens' panicked at 'assertion failed: `(left == right)`~  left: `3`,~ right: `4`: total of the fare', tests/desk.rs:12:5 ==> subject check|total of the fare",
        "** (exit) exited in: GenServer.call(Pier.FareTable, :all, 5000)~    ** (EXIT) time out~code: assert Desk.total() == 4 ==> subject awaited|Pier.FareTable",
        // Look-alikes: what tells one from the other is the name, not the sentence
        "Failed to pull image \"reg.pier.test:5000/harbour/tide-sim:1.2\": not found ==> environment no-image|tide-sim",
        "Container startup failed for image harbour/tide-sim:1.2 ==> environment no-containers|tide-sim",
        "token request failed: 400 {\"error\":\"invalid_grant\"} ==> environment login-refused|oauth invalid_grant",
        "session not created: This version of ChromeDriver only supports Chrome version 12 ==> environment device-gone|browser driver",
        "GET https://tide-gate.pier.test/v1 gave 504 Gateway Timeout ==> environment gateway-timeout|tide-gate",
        "psycopg2.OperationalError: connection to server at \"pier-db\", port 5432 failed: FATAL: database \"piers\" does not exist ==> object missing piers",
        "E11000 duplicate key error collection: desk.crews index: mail_1 dup key: { mail: 1 } ==> object constraint crews.mail_1",
        "ORA-00001: unique constraint (SKERROW.UQ_MAIL) violated ==> object constraint uq_mail",
        "HTTP 409 from POST /lanes/71/hold: LANE_FULL ==> code LANE_FULL",
        "[BRT-1001] cannot go on with pier 7 ==> code BRT-1001",
        "<faultcode>tow.NoCable</faultcode><faultstring>no</faultstring> ==> code tow.NoCable",
        "TypeError: a is not iterable~    at /ci/src/lanes/index.ts:12:3~    at Array.map (<anonymous>)~    at /ci/desk/watch.spec.ts:1:2 ==> frame js:lanes/index|type",
        "TypeError: a is not iterable~    at Proxy.paint (/ci/src/LaneBoard.vue:12:3) ==> frame js:laneboard.paint|type",
        "uncaught exception: ErrorCall~  CallStack (from HasCallStack):~    head, called at src/Tow.hs:12:5 in skerrow:Tow~    cableFor, called at src/Desk.hs:22:7 in skerrow:Desk ==> frame hs:tow.cablefor|",
        "{{badmatch,undefined},~ [{tow,cable_for,1,[{file,\"src/tow.erl\"},{line,12}]},~  {desk,run,1,[{file,\"src/desk.erl\"},{line,14}]}]} ==> frame erl:tow.cablefor|",
        "ENOENT: no such file or directory, open '/ci/seed/fares.json' {~  errno: -2,~  code: 'ENOENT' ==> subject file|fares.json",
        "waiting for getByRole('button', { name: 'Hold seat' }) ==> subject locator|role=button 'hold seat'",
        "Unable to find an accessible element with the role \"button\" and name \"Hold seat\" ==> subject locator|role=button 'hold seat'",
        "error TS2339: Property 'laneNo' does not exist on type 'Lane'. ==> subject field|Lane.laneNo",
        "E   pydantic.ValidationError: 1 validation error for Booking~E   seat~E     Field required ==> object invalid booking seat",
        "Assert.AreEqual failed. Expected:<3>. Actual:<4>. ==> test org.skerrow.Watch#opens|two values differ ",
        "E   assert 500 == 200~E    +  where 500 = <Response [500]>.status_code ==> test org.skerrow.Watch#opens|two values differ ",
        "Unable to find an element with the text: Dive is full. This could be because the text is broken up ==> subject locator|text='dive is full'",
        "waiting for getByText('Dive is full') ==> subject locator|text='dive is full'",
        "Element should be visible {.dive-card}~Element: '<div class=\"x\"></div>' ==> subject locator|.dive-card",
        "rpc error: code = FailedPrecondition desc = DIVE_FULL: no ==> code DIVE_FULL",
        "not-null property references a null or transient value : org.reef.Dive.guide ==> object not-null guide",
        "Migration checksum mismatch for migration version 12 - applied ==> object migration 12",
        "ERROR: relation \"service\" does not exist ==> object missing service",
        "{\"code\":\"INVALID_FORMAT\"} ==> code INVALID_FORMAT",
        "defaultCode: Eur, total of the lanes differs ==> text `defaultcode eur lanes total",
        "Connection refused~    at java.sql.ResultSet.getObject(ResultSet.java:3) ==> environment refused||",
        "Error: GraphQL error: the tide board has gone ==> text `graphql board gone tide",
        "NoMethodError: undefined method 'x' for nil~lib/ferry/lookup.rb:12:in `find'~lib/ferry/desk.rb:9:in `run' ==> frame rb:lookup.find|nomethod",
        "InvalidFormatException: not a valid `int` value (through reference chain: io.reef.Barge[\"draught\"]) ==> subject field|Barge.draught",
        "AttributeError: 'Gate' object has no attribute 'closed_at'. Did you mean: 'opened'? ==> subject field|Gate.closed_at",
        "AttributeError: 'NoneType' object has no attribute 'closed_at' ==> text `closed_at attribute",
        "Error: locator.click: Test timeout of 30000ms exceeded.~Call log:~  - waiting for getByRole('button', { name: 'Raise gate' }) ==> subject locator|role=button 'raise gate'",
        "** (exit) exited in: GenServer.call(Reef.Keeper, :plan, 5000)~    ** (EXIT) an exception was raised:~        ** (FunctionClauseError) no function clause matching in Reef.Gates.raise/2~            (reef 0.4.1) lib/reef/gates.ex:12: Reef.Gates.raise/2 ==> frame ex:gates.raise|functionclause",
        "DivisionByZeroError: Division by zero in /srv/src/Rates.php:12~#0 /srv/src/Desk.php(44): Reef\\Toll\\Rates->perStep()~#1 /srv/tests/WatchTest.php(3): Reef\\Desk->plan() ==> frame php:rates.perstep|divisionbyzero",
        "rpc error: code = ResourceExhausted desc = quota exceeded for lock-plans ==> object quota lock-plans",
        "KafkaError{code=UNKNOWN_TOPIC_OR_PART,val=3,str=\"Subscribed topic not available: lock-events: Broker: Unknown topic or partition\"} ==> object missing-topic lock-events",
        "KafkaException: KafkaError{code=_TRANSPORT,val=-195,str=\"Local: Broker transport failure\"} ==> environment reset|kafka",
        "ER_DUP_ENTRY: Duplicate entry 'x' for key 'lock.uq_lock_name' ==> object constraint uq_lock_name",
        "Unable to find role=\"alert\"~~Ignored nodes: comments, script ==> subject locator|alert",
        "Snapshot `toll table 1` mismatched ==> subject snapshot|toll table",
        "Snapshot name: `toll table 1` ==> subject snapshot|toll table",
        "Then the barge is in the basin # features/steps.py:12 ==> text barge basin features py steps",
        "Failing step: Then the barge is in the basin # features/steps.py:12 ... failed ==> subject step|the barge is in the basin",
        "E   Failed: DID NOT RAISE <class 'reef.errors.WaterTooLow'> ==> subject missing error|WaterTooLow",
        "expected Reef::WaterTooLow but nothing was raised ==> subject missing error|WaterTooLow",
        "AssertionError: WaterTooLow not raised ==> subject missing error|WaterTooLow",
        // What names nothing but the test
        "Expected java.lang.IllegalStateException to be thrown, but nothing was thrown. ==> text `illegalstateexception nothing",
        "AssertionError: ValueError not raised ==> test org.skerrow.Watch#opens|ValueError not raised",
        "kotlinx.coroutines.TimeoutCancellationException: Timed out waiting for 5000 ms ==> test org.skerrow.Watch#opens|Timed out waiting for # ms",
        "A timeout occurred waiting for a future to complete. Queried 10 times. ==> test org.skerrow.Watch#opens|awaited a future",
        "Expected response.StatusCode to be HttpStatusCode.OK {value: 200}, but found HttpStatusCode.Conflict {value: 409}. ==> test org.skerrow.Watch#opens|field response.StatusCode",
        // What is looked at, and not what it should say
        "expected '<div#total>' to have text '12', but the text was '13' ==> subject locator|#total",
        "Element 'xpath://button[text()='Sail']' not visible after 5 seconds. ==> subject locator|//button[text()='Sail']",
        "Button with id|name|title \"Pay now\" not found. ==> subject locator|Pay now",
        "Then the fare is 12 euro~  expected 12 but got 13 (features/fare.feature:12) ==> subject step|the fare is # euro",
        "Ambiguous match of \"the lane is open\":~features/steps/a.rb:3 ==> subject step|the lane is open",
        // Source that is shown beside a place tells what was checked, if that is a path to a value
        "assert 12.5 == 13.0~>       assert offer[\"total\"] == 13.0~E       assert 12.5 == 13.0~~tests/test_x.py:12: AssertionError ==> subject field|offer.total",
        "Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 12, in test_x~    self.assertEqual(offer[\"total\"], 13)~AssertionError: 12 != 13 ==> subject field|offer.total",
        "Error: expect(received).toBe(expected)~~Expected: 5~Received: 6~~  10 |   go();~> 11 |   expect(quote.total).toBe(5);~     |                       ^ ==> subject field|quote.total",
        "AssertionError: expected 6 to equal 5~     10|   go();~     11|   expect(quote.total).toBe(5);~       |                       ^ ==> subject field|quote.total",
        "The expression evaluated to a falsy value:~~  assert(quote.total === 5) ==> subject field|quote.total",
        "Error: expect(received).toBe(expected)~~Expected: 5~Received: 6~~> 11 |   expect(page.items.length).toBe(5); ==> test org.skerrow.Watch#opens|two values differ",
        "    x_test.go:12: bill.Total = 5, want 7 ==> subject field|bill.Total",
        "Error: expect(received).toHaveProperty(path, value)~~Expected path: \"rebate\"~Received path: [] ==> subject field|rebate",
        "expected 1, got 2~./features/steps.rb:12:in `\"the lane opens\"'~features/x.feature:12:in `the lane opens' ==> subject step|the lane opens",
        "Condition with lambda expression in org.skerrow.pier.TideFeed was not fulfilled within 5 seconds. ==> subject awaited|TideFeed",
        "Condition with lambda expression in org.skerrow.Watch was not fulfilled within 5 seconds. ==> test org.skerrow.Watch#opens|time limit",
        "assert 3 == 2~    def test_x():~>       assert len(rows) == 2~E       assert 3 == 2~E        +  where 3 = len([1, 2, 7])~~tests/test_x.py:12: AssertionError ==> test org.skerrow.Watch#opens|two values differ",
        "AssertionError: the ferry leaves~>       assert desk.state() == 'out', 'the ferry leaves'~E       AssertionError: the ferry leaves~E       assert 'in' == 'out'~~tests/test_x.py:12: AssertionError ==> subject check|the ferry leaves",
        "expected '<span[data-testid=\"sum\"]>' to have text '1', but the text was '2' ==> subject locator|testid=sum",
        "Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 12, in test_x~    self.assertEqual(self.total, 13)~    ~~~~~~~~~~~~~~~~^^^^^^^^^^^^^^^^~AssertionError: 12 != 13 ==> test org.skerrow.Watch#opens|two values differ",
        "Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 12, in test_x~    assert desk.total == 13~  File \"/usr/lib/python3/dist-packages/attr/x.py\", line 2, in total~    return a + b~TypeError: unsupported operand ==> test org.skerrow.Watch#opens|unsupported operand",
        // As ExUnit numbers its failures; what was called when an error was thrown is not checked
        "  2) test opens (Watch)~     test/x_test.exs:12~     ** (ArgumentError) no~     code: assert {:ok, _} = Quay.book(12)~     stacktrace:~       (quay 1.2.0) lib/quay/slots.ex:12: Quay.Slots.reserve/2~       test/x_test.exs:15: (test) ==> frame ex:slots.reserve|argument",
        "** (FunctionClauseError) no function clause matching in Fares.quote/1~     stacktrace:~       (fares) lib/fares.ex:12: Fares.quote/1~       test/x_test.exs:12: (test) ==> frame ex:fares.quote|functionclause",
        "** (KeyError) key :berth_id not found in: %{state: \"abc\"}~     code: assert Desk.label(%{state: \"abc\"}) == 1 ==> subject field|berth_id",
        "     Assertion with == failed~     code:  assert quote.total == 12~     left:  11~     right: 12 ==> subject field|quote.total",
        "<unknown>:0: error: -[Pier.WatchTests testIt] : failed: caught error: \"FareError.unknownZone(\"Z-12\")\" ==> subject case|FareError.unknownZone",
        "XCTAssertTrue failed - \"Book berth\" Button does not exist ==> subject locator|'Book berth' Button",
        "Keyword 'Fares.Check Berth Price' failed after retrying for 3 seconds. The last error was: 1 != 2 ==> subject step|Check Berth Price",
        "Keyword 'Open Berth Desk' expected 2 arguments, got 3. ==> subject step|Open Berth Desk",
        // Places as anybody may print them, and calls that are none
        "FAIL (NoPilot)~/app/src/roster.zig:12:9: 0x103fab in assign (test)~        return error.NoPilot;~        ^~/app/src/x.zig:4:5: 0x1040 in test.assigns a pilot (test) ==> frame roster.assign|",
        "expected 12, found 13~/usr/lib/zig/std/testing.zig:103:17: 0x103f in expectEqualInner (test)~    return error.Unequal;~    ^~/app/src/x.zig:12:5: 0x1040 in test.opens a gate (test)~    try testing.expectEqual(12, offer.seat);~    ^ ==> subject field|offer.seat",
        "Unhandled exception: no pilot [ValueError]~    /app/tests/tdesk.nim(12) tdesk~    /app/src/desk.nim(14) book~    /app/src/roster.nim(20) assign ==> frame roster.assign|",
        "fault: no pilot~  roster.assign src/roster.foo(12, 4)~  desk.book src/desk.foo(3, 2) ==> frame roster.assign|",
        "fault of the lamp plan: unlit~  note: Desk.open(12) ==> text desk fault lamp open plan unlit",
        "tdesk.nim(12, 3): Check failed: got == 12~    got was 13 ==> test org.skerrow.Watch#opens|two values differ",
        "Failure/Error: offer.seat.should eq(12)~  Expected: 12~       got: 13 ==> subject field|offer.seat",
        // Tests may share what checks something that its name tells, and not what checks anything
        "AssertionError~Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 4, in test_x~    check_receipt(1)~  File \"/app/tests/helpers.py\", line 9, in check_receipt~    assert got == want~AssertionError ==> shared helpers.checkreceipt|assertion",
        "AssertionError~Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 4, in test_x~    check_equal(1, 2)~  File \"/app/tests/helpers.py\", line 9, in check_equal~    assert got == want~AssertionError ==> test org.skerrow.Watch#opens|two values differ",
        // Frames of the outer error come first; the first of several failures has its places;
        // nobody is
        // to blame for having been in somebody's way but who wanted something
        "System.AggregateException : One or more errors occurred. (no)~---- System.InvalidOperationException : no~   at Pier.Tests.Watch.Opens() in /t/Watch.cs:line 3~----- Inner Stack Trace -----~   at Pier.Roster.Assign(Ref id) ==> frame roster.assign|invalidoperation",
        "org.opentest4j.MultipleFailuresError: Multiple Failures (1 failure)~\tjava.lang.IllegalStateException: no~\tat org.skerrow.Watch.opens(Watch.java:2)~\tSuppressed: java.lang.IllegalStateException: no~\t\tat org.skerrow.Lamp.dim(Lamp.java:2) ==> frame lamp.dim|illegalstate",
        "java.sql.SQLException: Deadlock found when trying to get lock~\tat org.skerrow.DockRepository.save(DockRepository.java:2)~\tat org.skerrow.DockLedger.post(DockLedger.java:2) ==> frame dockledger.post|contention",
        // However a constraint is called, and whatever has it
        "ERROR: insert or update on table \"plate\" violates constraint \"fk_plate_night\"~\tat org.skerrow.PlateStore.save(PlateStore.java:2) ==> object constraint fk_plate_night",
        "could not execute statement [ERROR: null value in column \"emulsion\" of relation \"plate\"]; constraint [emulsion] ==> object not-null emulsion",
        "error: no~  code: '23505', severity: 'ERROR',~  constraint: 'seat_row_key' ==> object constraint seat_row_key",
        "Topic(s) [plates.taken] is/are not present and missingTopicsFatal is true ==> object missing-topic plates.taken",
        "google.api_core.exceptions.NotFound: 404 GET https://storage.googleapis.com/storage/v1/b/sacks-in?prettyPrint=false: The specified bucket does not exist. ==> object missing-bucket sacks-in",
        "ZodError: [~  {~    \"code\": \"invalid_type\",~    \"path\": [~      \"patronAge\"~    ],~    \"message\": \"Required\"~  }~]~    at parse (/a/src/box/input.ts:1:2) ==> object invalid patronage",
        "Error: data must have required property 'patronAge' ==> object invalid patronage",
        // Files, fixtures and packages in the words of frameworks
        "java.io.FileNotFoundException: class path resource [samples/m31.fits] cannot be opened because it does not exist ==> subject file|m31.fits",
        "java.lang.NullPointerException: resource samples/m31.fits not found ==> subject file|m31.fits",
        "jinja2.exceptions.TemplateNotFound: bakery/till.html ==> subject file|till.html",
        "CypressError: A fixture file could not be found at any of the following paths:~~  > stage/fixtures/encores.json~  > stage/fixtures/encores.json.[ext] ==> subject file|encores.json",
        "  def test_x(sourdough):~E       fixture 'sourdough' not found ==> subject bean|sourdough",
        "Error: Failed to resolve entry for package \"@stage/cues\". The package may have incorrect main specified. ==> subject module|@stage.cues",
        // Requests that nobody was told to answer
        "Nock: No match for request {~  \"method\": \"GET\",~  \"url\": \"https://rights.test/v1/royalties/4711\"~} ==> endpoint GET /v1/royalties/{}|unmatched",
        "[MSW] Error: intercepted a request without a matching request handler:~~  • GET https://rights.test/v1/royalties/4711 ==> endpoint GET /v1/royalties/{}|unmatched",
        // Names around which the words of a fault stand
        "javax.net.ssl.SSLHandshakeException: Certificate of mount-gw:443 expired on 2026-03-04 ==> environment certificate-expired|mount-gw",
        "the pool of alloy-db:5432 is exhausted ==> environment pool-exhausted|alloy-db",
        // Where a test waited when its time was over
        "java.util.concurrent.TimeoutException: opens() timed out after 3 seconds~\tat java.base/java.util.ArrayList.forEach(ArrayList.java:1)~\tSuppressed: java.lang.InterruptedException~\t\tat java.base/java.util.concurrent.CountDownLatch.await(CountDownLatch.java:2)~\t\tat org.skerrow.sync.Barrier.meet(Barrier.java:2) ==> frame barrier.meet|stuck",
        "org.junit.runners.model.TestTimedOutException: test timed out after 3 seconds~\tat org.skerrow.sync.Barrier.meet(Barrier.java:2) ==> frame barrier.meet|stuck",
        // An interrupt beside another error is no cause of it; a value is no case of an error
        "java.lang.IllegalStateException: no~\tat org.skerrow.Lamp.dim(Lamp.java:2)~\tSuppressed: java.lang.InterruptedException~\t\tat org.skerrow.Barrier.meet(Barrier.java:2) ==> frame lamp.dim|illegalstate",
        "Expecting actual:~  StopPlace(id=3)~to be equal to:~  StopPlace(id=4) ==> test org.skerrow.Watch#opens|two values differ",
        // The same error again around itself; what is quoted of another process
        "concurrent.futures.process._RemoteTraceback: ~\"\"\"~Traceback (most recent call last):~  File \"/app/recipe/book.py\", line 3, in lookup~    return row['x']~KeyError: 'x'~\"\"\"~~The above exception was the direct cause of the following exception:~~Traceback (most recent call last):~  File \"/app/tests/test_x.py\", line 2, in test_x~    bake()~KeyError: 'x' ==> frame py:book.lookup|key",
        // What runtimes and compilers make is not to blame; directories in brackets
        "RangeError: Invalid time value~    at Date.toISOString (<anonymous>)~    at joinLegs (webpack-internal:///(rsc)/./src/plan/legs.ts:12:3) ==> frame js:legs.joinlegs|range",
        "java.lang.IllegalArgumentException: No enum constant com.tram.Aspect.x~\tat java.base/java.lang.Enum.valueOf(Enum.java:1)~\tat com.tram.Aspect.valueOf(Aspect.java:2)~\tat com.tram.Signals.next(Signals.java:2) ==> frame signals.next|illegalargument",
        "Assert.Equal() Failure~   at Tramline.Tests.Watch.Opens() in /src/Watch.cs:line 2 ==> test org.skerrow.Watch#opens|two values differ",
        "UnhandledMatchError: Unhandled match case 'x'~~/app/src/Tariff/Zones.php:12~#0 /app/src/Desk.php(2): Tram\\Zones::between('x') ==> frame php:zones.between|unhandledmatch",
        "panic: runtime error: index out of range~~goroutine 7 [running]:~rail.test/points.(*Switch).Throw(0x1)~\t/go/src/rail.test/points/switch.go:12 +0x1 ==> frame go:switch.throw|indexoutofrange",
        // Stores, settings, commands and elements in other words
        "Requested resource not found: Table: tram-alarms not found ==> object missing tram-alarms",
        "Cannot do operations on a non-existent table: tram-alarms ==> object missing tram-alarms",
        "GRID_KEY_A not found. Declare it as envvar or define a default value. ==> subject setting|GRID_KEY_A",
        "rpc error: code = FailedPrecondition desc = TRACK_LOCKED: tram 17 ==> code TRACK_LOCKED",
        "Error: Cannot find module '@tram/rails'~  code: 'MODULE_NOT_FOUND', ==> subject module|@tram.rails",
        "command failed with exit code 3: ./bin/rail plan --dry ==> subject expression|./bin/rail plan --dry",
        "x.cpp:12: ERROR: CHECK_EQ( axle.load(), 12 ) is NOT correct! ==> subject expression|axle.load()",
        "expected '<output#adult-fare>' to have text '1', but the text was '2' ==> subject locator|#adult-fare",
        "Exceeded timeout of 3 seconds, with unfulfilled expectations: \"Expect predicate exists == 1 for object app.switches[\"Night\"]\". ==> subject locator|app.switches['Night']",
        "Rule text~\"Elements must have enough of it (color-contrast)\"~Expected the HTML to have no violations ==> subject case|color-contrast",
        // Places that nothing but a line, an address or a heading tells
        "System.NullPointerException: Attempt to de-reference a null object~Class.QuoteService.price: line 12, column 1~Class.Watch.opens: line 3, column 1 ==> frame quoteservice.price|nullpointer",
        "Index exceeds the number of array elements.~Error in tideCurve (line 12)~    level = levels(k + 1);~Error in harbourPlan (line 3) ==> frame .tidecurve|",
        "core.exception.RangeError@source/tariff.d(12): Range violation~----------------~??:? _d_arraybounds_indexp [0x55d]~source/tariff.d:12 pure @safe int harbour.tariff.Tariff.priced(int) [0x55d] ==> frame tariff.priced|range",
        "EvmError: Revert~Backtrace:~  at Tariff::price~  at WatchTest.testA ==> frame tariff.price|evm",
        "vector-ref: index is out of range~  context...:~   open-lane~   quote ==> frame .openlane|",
        "no fare~AndroidRuntime: java.lang.IllegalStateException: no fare~AndroidRuntime: \tat org.kiosk.PayActivity.onResume(x.kt:12) ==> frame payactivity.onresume|illegalstate",
        "error IndexOutOfRange~    callableName: priced moduleName: pier.desk.0 fileName: tariff.bal lineNumber: 12 ==> frame tariff.priced|",
        "error: out of range~\tat pier.desk.0:priced(tariff.bal:12)~\t   pier.desk.0:quote(desk.bal:3) ==> frame tariff.priced|",
        "no pattern matched the value~  in function crew:assign/1 (src/crew.gleam, line 12)~  in call from watch_test:opens/0 (test/watch_test.gleam, line 2) ==> frame crew.assign|",
        // What is written beside source
        "error: Assert status code~  --> Watch.hurl:12:6~   |~   | POST http://desk.test:8080/api/slips/4711~   | ...~12 | HTTP 200~   |      ^^^ actual value is <500>~   | ==> endpoint POST /api/slips/{}|500",
        "error: Assert failure~   |~12 | jsonpath \"$.slip.total\" == 12~   |   actual:   integer <13>~   |   expected: integer <12> ==> subject field|slip.total",
        // What a sentence says of an element, a file or a program
        "Assertion is false: \"Buy ticket\" is visible ==> subject locator|Buy ticket",
        "Element not found: Text matching regex: Next sailing ==> subject locator|Next sailing",
        "Unable to find file or directory 'soundings.mat'. ==> subject file|soundings.mat",
        "open-input-file: cannot open input file~  path: /app/data/lanes.rktd~  system error: errno=2 ==> subject file|lanes.rktd",
        "Undefined function 'mexTide' for input arguments of type 'double'. ==> subject module|mexTide",
        "Unable to launch app org.skerrow.kiosk: the app is not installed ==> subject module|org.skerrow.kiosk",
        "pilot-roster: unbound identifier ==> subject module|pilot-roster",
        "Verification failed~    Test Diagnostic:~    ----------------~    Height of the tide~    verifyEqual failed. ==> subject check|Height of the tide",
        "    --> Path to failure: <Value>.lane.width ==> subject field|lane.width",
        "[FAIL: SeatTaken(17)] testA() (gas: 4711) ==> subject case|SeatTaken",
        // Stacks of images and databases
        "ORA-01403: no data found~ORA-06512: at \"PIER.LANES.OPEN_LANE\", line 12~ORA-06512: at \"PIER.DESK\", line 3~ORA-06512: at line 6 ==> frame lanes.openlane|",
        "ORA-20417: LANE_SHUT: lane 7 is shut~ORA-06512: at \"PIER.RULES.REJECT\", line 12 ==> code ORA-20417",
        "ORA-12541: Cannot connect. No listener at host lanedb port 1521. ==> environment refused|lanedb",
        "ORA-00942: table or view \"PIER\".\"LANES\" does not exist ==> object missing lanes",
        "MessageNotUnderstood: receiver of \"width\" is nil~UndefinedObject(Object)>>doesNotUnderstand: #width~[ :each | each width ] in LaneTable>>open:~Array(SequenceableCollection)>>do:~WatchTest>>testOpens ==> frame lanetable.open|",
        "Unexpected Error: #<DIVISION-BY-ZERO {1003}>~arithmetic error DIVISION-BY-ZERO signalled~0: (SB-KERNEL::INTEGER-/-INTEGER 3 0)~1: (PIER/LANES:OPEN-LANE #<LANE 3>)~2: ((LAMBDA () :IN WATCH-TESTS)) ==> frame lanes.openlane|division-by-zero",
        "Expect (= (lane-width lane) 3) to be true. ==> subject expression|lane-width lane",
        "System \"pier-gauge\" not found ==> subject module|pier-gauge",
        "raised PIER.LANES.LANE_SHUT : lane 7~[/app/obj/run_tests]~Pier.Lanes.Open at pier-lanes.adb:12 ==> frame lanes.open|lane_shut",
        "Exception name: CONSTRAINT_ERROR~Exception message: lanes.adb:12 index check failed~0x3f2a1b9c in lanes.open at lanes.adb:12 ==> frame lanes.open|constraint",
        "Type check failed in binding to parameter '$lane'~  in sub open-lane at lib/Lanes.rakumod (Lanes) line 12~  in block <unit> at t/watch.rakutest line 3 ==> frame lanes.openlane|",
        "Could not find Pier::Gauge in:~    inst#/app/.raku ==> subject module|Pier::Gauge",
        "received error: lanes:open/2: Arithmetic: evaluation error: zero_divisor ==> frame lanes.open|",
        "no lane~SCRIPT ERROR: no lane~          at: open_lane (res://src/LaneGrid.gd:12)~          at: quote (res://src/desk.gd:3) ==> frame lanegrid.openlane|",
        "At line 12 of file ../src/lanes.f90~Fortran runtime error: bound mismatch for dimension 1~~Error termination. Backtrace:~#0  0x3f2a1b9c in __lanes_MOD_open_lane~\tat ../src/lanes.f90:12 ==> frame lanes.openlane|",
        "The root module input variable \"lane_key\" is not set, and has no default value. ==> subject setting|lane_key",
        "(ert-test-failed~     ((should~       (= (lane-width lane) 3))~      :form ==> subject expression|lane-width lane",
        // Lines of one shape below each other are a stack, however it is printed
        "no lane~  -> pier.LaneTable.open @ lanes.kx[42]~  -> pier.Desk.quote @ desk.kx[12] ==> frame lanetable.open|",
        "no lane~#3 pc 0004f2a1  liblanes.so  lanes::Table::open(int)~#4 pc 0004f2b1  libdesk.so  desk::quote(Order const&) ==> frame table.open|",
        "no lane~| lanes.Table.open | lanes.q | 42 |~| desk.Desk.quote | desk.q | 13 | ==> frame table.open|",
        "no lane~lanes/table.q, line 42, LaneTable.open~desk/desk.q, line 12, Desk.quote ==> frame lanetable.open|",
        "no lane~[main] LaneTable::open <lanes/table.q:42>~[main] Desk::quote <desk/desk.q:12> ==> frame lanetable.open|",
        "no lane~module Lanes, procedure open, line 42~module Desk, procedure quote, line 12 ==> frame lanes.open|",
        "no lane~PIER.LaneTable:open:42~PIER.Desk:quote:12 ==> frame lanetable.open|",
        "no lane~  in 'open' of LaneTable (lanes.q:42)~  in 'quote' of Desk (desk.q:12) ==> frame lanetable.open|",
        "no lane~  open(LaneTable.x, 42)~  quote(Desk.x, 12) ==> frame lanetable.open|",
        "no lane~0: module=lanes func=open line=42~1: module=desk func=quote line=12 ==> frame lanes.open|",
        // But what is listed is none
        "two differ~lane.width is 3 and line 4~lane.depth is 7 and line 9 ==> text depth lane width",
        "two differ~lane.width (3)~lane.depth (8) ==> text depth lane width",
        // Steps, components, calls, checks, and the innermost error of a line of Go
        "java.lang.AssertionError: no~\tat org.skerrow.steps.SkySteps.check(SkySteps.java:1)~\tat ✽.the dome is open(file:///a/features/x.feature:12) ==> subject step|the dome is open",
        "Error: Objects are not valid as a React child~~The above error occurred in the <SeatLegend> component: ==> subject component|SeatLegend",
        "Argument(s) are different! Wanted:~telemetry.slew(3);~-> at org.skerrow.Watch.opens(Watch.java:2) ==> subject call|telemetry.slew",
        "panic: ~mock: I don't know what to return because the method call was unexpected.~\tEither do Mock.On(\"Weigh\").Return(...) first, or remove the Weigh() call. ==> subject call|Weigh",
        "/a/x_test.cc:12: Failure~Expected: (kiln.temperature()) >= (900), actual: 12 vs 900 ==> subject expression|kiln.temperature()",
        "XCTAssertTrue failed - app.buttons[\"Tap furnace\"] did not appear ==> subject locator|app.buttons['Tap furnace']",
        "=== RUN   TestOpens~    x_test.go:12: pouring 17 kg: prepare: no casting mould fits~--- FAIL: TestOpens (0.01s) ==> text casting fits mould",
        "RecursionError: maximum recursion depth exceeded~  [Previous line repeated 960 more times] ==> text depth exceeded maximum recursion",
        "ErrorException: Undefined array key \"P\" in /app/src/Roster.php:12~Stack trace:~#0 /app/src/Desk.php(12): Pier\\Roster->assign('P')~#1 {main} ==> frame php:roster.assign|error",
      })
  void whatItIsKnownBy(String text, String key) {
    assertThat(sign("org.skerrow.Watch", text.replace('~', '\n')).key()).isEqualTo(key);
  }

  /**
   * "Refused by some mail server" came first; of two mail servers that come later, nobody knows
   * which it was, whether they come together or one after the other.
   */
  @Test
  void whatKnowsLessIsNobodysWhereSeveralMayBeMeant() {
    Signature nameless = sign("org.skerrow.Watch", "smtp: connection refused");
    Signature one = sign("org.skerrow.Watch", "smtp://pier-mail:25 connection refused");
    Signature other = sign("org.skerrow.Watch", "smtp://dock-mail:25 connection refused");
    Map<GroupKey, List<KnownGroup>> known = new HashMap<>();
    KnownGroup group = new KnownGroup(7, nameless.kind(), nameless.words());
    Grouping.of(List.of(nameless), key -> List.of()).keys().values().iterator().next().stream()
        .forEach(key -> known.put(key, List.of(group)));

    Grouping.Result alone = Grouping.of(List.of(one), key -> known.getOrDefault(key, List.of()));
    assertThat(alone.of().get(one.key()).known()).isEqualTo(group);

    Grouping.Result both =
        Grouping.of(List.of(one, other), key -> known.getOrDefault(key, List.of()));
    assertThat(both.of().get(one.key()).known()).isNull();
    assertThat(both.of().get(other.key()).known()).isNull();

    KnownGroup pier = new KnownGroup(8, one.kind(), one.words());
    Grouping.of(List.of(one), key -> List.of()).keys().values().iterator().next().stream()
        .forEach(key -> known.merge(key, List.of(pier), (a, b) -> List.of(a.get(0), b.get(0))));
    Grouping.Result later = Grouping.of(List.of(other), key -> known.getOrDefault(key, List.of()));
    assertThat(later.of().get(other.key()).known()).isNull();
  }

  /** Also in the runs after the one in which that was found. */
  @Test
  void whatIsMerelyLikeAGroupIsNeverCarriedTo() {
    Signature one = sign("org.skerrow.Watch", "tide board of the pier lost lanes and fuel");
    Signature like = sign("org.skerrow.Watch", "tide board of the pier lost lanes and fuel gauge");
    Map<GroupKey, List<KnownGroup>> known = new HashMap<>();
    KnownGroup group = new KnownGroup(7, one.kind(), one.words());
    for (Signature next : List.of(one, like, like, like)) {
      Grouping.Result result =
          Grouping.of(List.of(next), key -> known.getOrDefault(key, List.of()));
      Grouping.Placed placed = result.of().get(next.key());
      boolean same = next.key().equals(one.key());
      assertThat(placed.joined()).isEqualTo(same ? Grouping.Joined.KEY : Grouping.Joined.LIKE);
      assertThat(placed.carries(next)).isEqualTo(same);
      result.keys().values().forEach(some -> some.forEach(key -> known.put(key, List.of(group))));
    }
  }
}
