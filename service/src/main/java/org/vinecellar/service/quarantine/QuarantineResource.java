package org.vinecellar.service.quarantine;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.quarantine.Quarantine;
import org.vinecellar.core.quarantine.QuarantineStore;
import org.vinecellar.core.quarantine.Terms;
import org.vinecellar.core.quarantine.runners.Arguments;
import org.vinecellar.core.quarantine.runners.NamedTest;
import org.vinecellar.core.quarantine.runners.Runner;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.trust.TestWords;
import org.vinecellar.service.web.Pages;

/** Tests whose failures fail no gate for a while. */
@Path("/api/v1/projects/{project}/quarantine")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class QuarantineResource {
  private static final int MOST_SEEN = 100_000;

  private final QuarantineStore store;
  private final RunStore runs;
  private final Caller caller;
  private final FilterReader filters;
  private final InstantSource clock;

  QuarantineResource(
      QuarantineStore store,
      RunStore runs,
      Caller caller,
      FilterReader filters,
      InstantSource clock) {
    this.store = store;
    this.runs = runs;
    this.caller = caller;
    this.filters = filters;
    this.clock = clock;
  }

  /**
   * What came of it.
   *
   * @param fits how many tests fit the filter, or were named
   * @param added how many are in quarantine now that were not
   * @param already how many were there
   * @param unknown how many the stream has not
   * @param tests the first of those that fit
   */
  @Schema(name = "QuarantineAdded")
  public record AddedBody(int fits, int added, int already, int unknown, List<String> tests) {}

  /**
   * What is given to who runs the tests.
   *
   * @param arguments one for each, none of them quoted; empty when there is no test to tell of
   * @param left tests that could not be told exactly, so that they are run
   */
  @Schema(name = "RunnerArguments")
  public record ArgumentsBody(List<String> arguments, List<LeftBody> left) {
    static ArgumentsBody of(Arguments told) {
      return new ArgumentsBody(
          told.words(),
          told.left().stream()
              .map(one -> new LeftBody(TestWords.shortly(one.test().test()), one.why()))
              .toList());
    }
  }

  /** A test that the arguments say nothing of, and why. */
  @Schema(name = "LeftOut")
  public record LeftBody(String test, String why) {}

  @GET
  @Operation(
      operationId = "listQuarantine",
      summary =
          "Tests in quarantine, the one that ends first first; or those that were ended; or all that"
              + " there were of a test")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(
              schema = @Schema(type = SchemaType.ARRAY, implementation = QuarantineBody.class)))
  public Response list(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("test") @Nullable Long test,
      @QueryParam("ended") boolean ended,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    if (test != null) {
      return Response.ok(isNumber(test) ? bodies(store.of(project.id(), test)) : List.of()).build();
    }
    int size = Pages.limit(limit, 100, 500);
    int after = (int) Math.min(Pages.seen(cursor), MOST_SEEN);
    List<Quarantine> all =
        ended
            ? store.ended(project.id(), stream, after, size)
            : store.open(project.id(), stream, after, size);
    String next = all.size() < size ? null : Integer.toString(after + size);
    return Pages.page(bodies(all), uri, next).build();
  }

  private List<QuarantineBody> bodies(List<Quarantine> all) {
    return all.stream().map(one -> QuarantineBody.of(one, today())).toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "quarantine",
      summary = "Put tests into quarantine, by their numbers or by a filter")
  public AddedBody add(@PathParam("project") String key, @Nullable TermsBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw invalid("say which tests, and who sees to them: tests, owner, reason and until");
    }
    boolean trial = Boolean.TRUE.equals(body.trial());
    if (!trial) {
      // What is wrong with them is told before all tests are looked through.
      Terms unused = body.terms().checked(today());
    }
    List<Named> tests = tests(project, body);
    List<String> first =
        tests.stream().map(Named::name).filter(name -> !name.isEmpty()).limit(20).toList();
    if (trial) {
      return new AddedBody(tests.size(), 0, 0, 0, first);
    }
    QuarantineStore.Added added =
        store.add(
            project.id(),
            tests.stream().map(Named::id).toList(),
            body.stream(),
            body.terms(),
            hand());
    return new AddedBody(tests.size(), added.added(), added.already(), added.unknown(), first);
  }

  private record Named(long id, String name) {}

  private List<Named> tests(Project project, TermsBody body) {
    List<@Nullable Long> named = body.tests();
    String filter = body.filter() == null ? "" : body.filter();
    if ((named == null || named.isEmpty()) == filter.isBlank()) {
      throw invalid("say which tests: either tests, a list of their numbers, or a filter of tests");
    }
    if (named == null || named.isEmpty()) {
      return fitting(project, filter);
    }
    if (named.size() > QuarantineStore.MOST_AT_ONCE || named.stream().anyMatch(Objects::isNull)) {
      throw tooMany("tests is a list of up to " + QuarantineStore.MOST_AT_ONCE + " numbers");
    }
    return named.stream()
        .map(id -> new Named(isNumber(Objects.requireNonNull(id)) ? id : 0, ""))
        .toList();
  }

  /** Whether a test could have it. */
  private static boolean isNumber(long id) {
    return id > 0 && id <= Integer.MAX_VALUE;
  }

  private List<Named> fitting(Project project, String filter) {
    Criterion criterion = filters.read(project, filter, Thing.TEST);
    List<Named> fitting =
        runs
            .tests(project.id(), new TestQuery(criterion, 0, QuarantineStore.MOST_AT_ONCE + 1))
            .stream()
            .map(row -> new Named(row.test().id(), TestWords.shortly(row.test())))
            .toList();
    if (fitting.isEmpty()) {
      throw new CellarException(ProblemCode.NOT_FOUND, "no test fits the filter");
    }
    if (fitting.size() > QuarantineStore.MOST_AT_ONCE) {
      throw tooMany(
          "more than "
              + QuarantineStore.MOST_AT_ONCE
              + " tests fit the filter; so many cannot be put into quarantine at once");
    }
    return fitting;
  }

  @PUT
  @Path("{id}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "changeQuarantine", summary = "Give a quarantine other terms")
  public void change(
      @PathParam("project") String key, @PathParam("id") long id, @Nullable TermsBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED,
          "say which version of the quarantine you saw, as JSON: version");
    }
    store.change(project.id(), id, body.version(), body.terms(), hand());
  }

  @DELETE
  @Path("{id}")
  @Operation(
      operationId = "endQuarantine",
      summary = "End a quarantine: failures in runs that begin from now on count again")
  public void end(@PathParam("project") String key, @PathParam("id") long id) {
    Project project = caller.project(key, Right.EDIT);
    store.end(project.id(), id, hand());
  }

  @GET
  @Path("{id}")
  @Operation(operationId = "getQuarantine", summary = "A quarantine, whether it is ended or not")
  public QuarantineBody one(@PathParam("project") String key, @PathParam("id") long id) {
    Project project = caller.project(key, Right.READ);
    return store
        .one(project.id(), id)
        .map(found -> QuarantineBody.of(found, today()))
        .orElseThrow(
            () -> new CellarException(ProblemCode.NOT_FOUND, "there is no quarantine " + id));
  }

  @GET
  @Path("tests")
  @Operation(
      operationId = "quarantinedTests",
      summary = "The names of the tests that are in quarantine today")
  public List<String> names(
      @PathParam("project") String key, @QueryParam("stream") @Nullable String stream) {
    Project project = caller.project(key, Right.READ);
    return store.names(project.id(), stream, today(), true).stream()
        .map(one -> TestWords.shortly(one.test()))
        .distinct()
        .toList();
  }

  @GET
  @Path("tests.txt")
  @Produces(MediaType.TEXT_PLAIN)
  @Operation(
      operationId = "quarantinedTestsAsText",
      summary = "The names of the tests that are in quarantine today, one in each line")
  public String lines(
      @PathParam("project") String key, @QueryParam("stream") @Nullable String stream) {
    return names(key, stream).stream()
        .map(name -> name.replaceAll("\\s+", " ") + "\n")
        .collect(Collectors.joining());
  }

  @GET
  @Path("arguments")
  @Operation(
      operationId = "quarantineArguments",
      summary = "Arguments by which a runner leaves out what is in quarantine, or runs just that")
  public ArgumentsBody arguments(
      @PathParam("project") String key,
      @QueryParam("runner") @Nullable String runner,
      @QueryParam("only") boolean only,
      @QueryParam("stream") @Nullable String stream) {
    Project project = caller.project(key, Right.READ);
    String known =
        Arrays.stream(Runner.values()).map(Runner::word).collect(Collectors.joining(", "));
    Runner one =
        Runner.of(runner == null ? "" : runner)
            .orElseThrow(
                () ->
                    invalid(
                        (runner == null || runner.isBlank()
                                ? "say for whom: runner, one of "
                                : "there is no runner “" + runner + "”; there are ")
                            + known));
    List<NamedTest> tests = store.names(project.id(), stream, today(), only);
    return ArgumentsBody.of(one.arguments(tests, only));
  }

  @GET
  @Path("runs/{run}")
  @Operation(
      operationId = "quarantinedInRun",
      summary = "How many failing results of a run fail no gate")
  public InRunBody in(@PathParam("project") String key, @PathParam("run") long run) {
    Project project = caller.project(key, Right.READ);
    if (run < 1 || run > Integer.MAX_VALUE || runs.run(project.id(), run).isEmpty()) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "there is no run " + run + " in this project");
    }
    return InRunBody.of(store.in(project.id(), run));
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }

  private static CellarException tooMany(String message) {
    return new CellarException(ProblemCode.TOO_LARGE, message);
  }
}
