package org.vinecellar.service.trust;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.trust.TrustStore;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.web.Pages;

/** Which tests can be believed. */
@Path("/api/v1/projects/{project}/tests")
@Tag(name = "trust")
@Produces(MediaType.APPLICATION_JSON)
public class TrustResource {
  private static final int USUAL = 500;
  private static final int MOST = 2_000;

  private final TrustStore store;
  private final Caller caller;

  TrustResource(TrustStore store, Caller caller) {
    this.store = store;
    this.caller = caller;
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
    List<TrustStore.TestLine> lines = store.tests(project.id(), stream, after(cursor), size);
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
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    int size = Pages.limit(limit, 100, 500);
    int after = (int) Math.min(after(cursor), 1_000_000);
    List<TrustStore.InStream> tests =
        store.taken(project.id(), verdict(verdict), stream, after, size);
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
    return HistoryBody.of(store.history(project.id(), test, stream, branch, size), known);
  }

  private TrustStore.TestDetail found(Project project, long test) {
    return store
        .test(project.id(), test)
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

  private static long after(@Nullable String cursor) {
    if (cursor == null) {
      return 0;
    }
    if (!cursor.matches("[0-9]{1,10}")) {
      throw invalid("the cursor is not one of ours; begin again without it");
    }
    return Long.parseLong(cursor);
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
