package org.vinecellar.service.trust;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
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
import java.util.List;
import java.util.Locale;
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
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.core.trust.history.PastResult;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.web.Pages;
import org.vinecellar.service.work.Worker;

/** Which tests can be believed. */
@Path("/api/v1/projects/{project}/tests")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class TrustResource {
  private static final int USUAL = 500;
  private static final int MOST = 2_000;

  private final TrustStore store;
  private final Caller caller;
  private final Worker worker;
  private final InstantSource clock;

  TrustResource(TrustStore store, Caller caller, Worker worker, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.worker = worker;
    this.clock = clock;
  }

  @GET
  @Path("estimates")
  @Operation(
      operationId = "listEstimates",
      summary = "The tests of a stream, and whether each can be believed")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = EstimateBody.class)))
  public Response estimates(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    int size = Pages.limit(limit, USUAL, MOST);
    List<TrustStore.TestLine> lines = store.tests(project.id(), stream, Pages.seen(cursor), size);
    String next = lines.size() < size ? null : Long.toString(lines.get(size - 1).test().id());
    return Pages.page(lines.stream().map(EstimateBody::of).toList(), uri, next).build();
  }

  @GET
  @Path("taken")
  @Operation(
      operationId = "listTaken",
      summary = "Tests that are taken for flaky, broken or neither yet, the most certain first")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = TakenBody.class)))
  public Response taken(
      @PathParam("project") String key,
      @QueryParam("verdict") @Nullable String verdict,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("free") boolean free,
      @QueryParam("order") @Nullable String order,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    int size = Pages.limit(limit, 100, 500);
    int after = (int) Math.min(Pages.seen(cursor), 1_000_000);
    List<TrustStore.InStream> tests =
        store.taken(
            project.id(),
            new TrustStore.Question(
                verdict(verdict), stream, free, order(order), today(), after, size));
    String next = tests.size() < size ? null : Integer.toString(after + size);
    return Pages.page(tests.stream().map(TakenBody::of).toList(), uri, next).build();
  }

  private static Verdict verdict(@Nullable String word) {
    for (Verdict verdict : Verdict.values()) {
      if (word == null ? verdict == Verdict.FLAKY : verdict.word().equals(word)) {
        return verdict;
      }
    }
    throw invalid("verdict is “" + word + "”; it can be flaky, steady, broken or unsure");
  }

  private static TrustStore.Order order(@Nullable String word) {
    for (TrustStore.Order order : TrustStore.Order.values()) {
      if (word == null
          ? order == TrustStore.Order.CERTAIN
          : order.name().toLowerCase(Locale.ROOT).equals(word)) {
        return order;
      }
    }
    throw invalid("order is “" + word + "”; it can be certain, often or latest");
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
  }

  @GET
  @Path("named")
  @Operation(
      operationId = "findTests",
      summary = "The tests of a stream that are called so, one for each variant")
  public List<EstimateBody> named(
      @PathParam("project") String key,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("test") @Nullable String test) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank() || test == null || test.isBlank()) {
      throw invalid(
          "say of which stream, and which test: ?stream=booking-api/nightly&test=FareTest%23rounds");
    }
    return store.named(project.id(), stream, test).stream().map(EstimateBody::of).toList();
  }

  @GET
  @Path("{test}")
  @Operation(operationId = "getTest", summary = "A test with what is known of it")
  public TestDetailBody test(@PathParam("project") String key, @PathParam("test") long test) {
    Project project = caller.project(key, Right.READ);
    return TestDetailBody.of(found(project, test));
  }

  @GET
  @Path("{test}/history")
  @Operation(
      operationId = "getTestHistory",
      summary = "What a test did in the latest runs of a stream, under whatever name")
  public HistoryBody history(
      @PathParam("project") String key,
      @PathParam("test") long test,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("branch") @Nullable String branch,
      @QueryParam("limit") @Nullable Integer limit) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    int size = Pages.limit(limit, 100, 500);
    TrustStore.InStream known =
        found(project, test).streams().stream()
            .filter(one -> one.stream().equals(stream))
            .findFirst()
            .orElse(null);
    List<PastResult> results = store.history(project.id(), test, stream, branch, size);
    return HistoryBody.of(results, known, store.ranBefore(project.id(), results).orElse(null));
  }

  @GET
  @Path("{test}/moments")
  @Operation(
      operationId = "listMoments",
      summary = "What happened to a test in a stream, and what people said of it; the latest first")
  public List<MomentBody> moments(
      @PathParam("project") String key,
      @PathParam("test") long test,
      @QueryParam("stream") @Nullable String stream,
      @QueryParam("limit") @Nullable Integer limit) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    int size = Pages.limit(limit, 100, 500);
    long known = found(project, test).test().id();
    return store.moments(project.id(), known, stream, clock.instant(), size).stream()
        .map(MomentBody::of)
        .toList();
  }

  private TrustStore.TestDetail found(Project project, long test) {
    return store
        .test(project.id(), test, today())
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND, "there is no test " + test + " in this project"));
  }

  @GET
  @Path("renames")
  @Operation(
      operationId = "listRenames",
      summary = "Tests of a stream that go on under other names")
  public List<RenameBody> renames(
      @PathParam("project") String key, @QueryParam("stream") @Nullable String stream) {
    Project project = caller.project(key, Right.READ);
    if (stream == null || stream.isBlank()) {
      throw invalid("say of which stream: ?stream=booking-api/nightly");
    }
    return store.renames(project.id(), stream).stream().map(RenameBody::of).toList();
  }

  /**
   * What somebody says of two tests.
   *
   * @param stream by its name
   * @param oldTest the number of the test that goes on
   * @param newTest the number of the test as which it does
   * @param joined whether it does; else they are two tests
   */
  @Schema(name = "RenameSaid")
  public record SaidBody(
      @Nullable String stream,
      @Nullable Long oldTest,
      @Nullable Long newTest,
      @Nullable Boolean joined) {}

  @PUT
  @Path("renames")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "sayRename",
      summary = "Say of two tests that they are one under two names, or that they are not")
  public void say(@PathParam("project") String key, @Nullable SaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null
        || body.stream() == null
        || body.oldTest() == null
        || body.newTest() == null
        || body.joined() == null) {
      throw invalid("say which tests, as JSON: stream, oldTest, newTest and joined");
    }
    store.say(
        project.id(),
        body.stream(),
        body.oldTest(),
        body.newTest(),
        body.joined(),
        new Hand(caller.name(), clock.instant()));
    worker.soon();
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
