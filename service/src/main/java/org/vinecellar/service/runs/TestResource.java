package org.vinecellar.service.runs;

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
import java.util.Map;
import java.util.Optional;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.runs.TestQuery;
import org.vinecellar.core.runs.TestRow;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.web.Pages;

/** Tests of a project. */
@Path("/api/v1/projects/{project}/tests")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class TestResource {
  private final RunStore store;
  private final Caller caller;
  private final FilterReader filters;

  TestResource(RunStore store, Caller caller, FilterReader filters) {
    this.store = store;
    this.caller = caller;
    this.filters = filters;
  }

  /**
   * A test.
   *
   * @param file its source file, as told last; null when not told
   * @param tags as told last, and by hand
   */
  @Schema(name = "Test")
  public record TestBody(
      long id,
      List<String> suite,
      String name,
      @Schema(nullable = true) @Nullable String parameters,
      Map<String, String> variant,
      @Schema(nullable = true) @Nullable String file,
      List<String> tags) {
    static TestBody of(TestRow t) {
      KeptTest test = t.test();
      return new TestBody(
          test.id(),
          test.suite(),
          test.name(),
          test.parameters(),
          test.variant(),
          t.file(),
          t.tags());
    }
  }

  @GET
  @Operation(
      operationId = "listTests",
      summary = "Tests that files told of, those that came first first; filter is of tests")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(schema = @Schema(type = SchemaType.ARRAY, implementation = TestBody.class)))
  public Response list(
      @PathParam("project") String key,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("cursor") @Nullable String cursor,
      @QueryParam("limit") @Nullable Integer limit,
      @Context UriInfo uri) {
    Project project = caller.project(key, Right.READ);
    int size = Pages.limit(limit, 100, 500);
    long after = Words.cursor(cursor, TestResource::number).orElse(0L);
    List<TestRow> tests =
        store.tests(
            project.id(), new TestQuery(filters.read(project, filter, Thing.TEST), after, size));
    String next = tests.size() < size ? null : Long.toString(tests.get(size - 1).test().id());
    return Pages.page(tests.stream().map(TestBody::of).toList(), uri, next).build();
  }

  private static Optional<Long> number(String word) {
    return word.matches("[0-9]{1,10}") ? Optional.of(Long.valueOf(word)) : Optional.empty();
  }
}
