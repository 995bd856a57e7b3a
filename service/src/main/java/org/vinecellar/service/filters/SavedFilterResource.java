package org.vinecellar.service.filters;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.SavedFilter;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.filters.SavedFilterStore.Use;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** Filters under a name: those that all of a project have, and one's own. */
@Path("/api/v1/projects/{project}/filters")
@Tag(name = "filters")
@Produces(MediaType.APPLICATION_JSON)
@Consumes(MediaType.APPLICATION_JSON)
public class SavedFilterResource {
  private final SavedFilterStore store;
  private final FilterReader filters;
  private final Caller caller;
  private final InstantSource clock;

  SavedFilterResource(
      SavedFilterStore store, FilterReader filters, Caller caller, InstantSource clock) {
    this.store = store;
    this.filters = filters;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * A filter as it is written: what is read can be written again, here or in another project.
   *
   * @param of what it picks: run, result, test or group
   * @param filter its text
   */
  @Schema(name = "NewSavedFilter")
  public record SaidBody(@Nullable String name, @Nullable String of, @Nullable String filter) {
    SavedFilter filterSaid() {
      Thing thing =
          Thing.ofWord(of == null ? "" : of)
              .filter(Thing::isListed)
              .orElseThrow(
                  () -> invalid("say what the filter picks, as of: run, result, test or group"));
      return new SavedFilter(
          name == null ? "" : name.strip(), thing, filter == null ? "" : filter.strip());
    }
  }

  /**
   * A filter as it shall be.
   *
   * @param version that was seen
   */
  @Schema(name = "ChangedSavedFilter")
  public record ChangeBody(@Nullable Integer version, @Nullable SaidBody filter) {}

  /**
   * Something that names a filter.
   *
   * @param board its number; null for another kind
   * @param filter the number of another filter; null for another kind
   * @param text for people
   */
  @Schema(name = "SavedFilterUse")
  public record UseBody(
      @Schema(nullable = true) @Nullable Long board,
      @Schema(nullable = true) @Nullable Long filter,
      String text) {
    static UseBody of(Use use) {
      return new UseBody(
          use instanceof Use.OfBoard board ? board.id() : null,
          use instanceof Use.OfFilter other ? other.id() : null,
          use.text());
    }
  }

  /**
   * A saved filter.
   *
   * @param mine whether it is the caller's own, and nobody else sees it
   * @param filter its text
   * @param reference as it stands in other filters
   */
  @Schema(name = "SavedFilter")
  public record FilterBody(
      long id,
      int version,
      boolean mine,
      String name,
      @Schema(enumeration = {"run", "result", "test", "group"}) String of,
      String filter,
      String reference,
      Instant changedAt,
      String changedBy) {
    static FilterBody of(SavedFilter.Kept kept) {
      SavedFilter filter = kept.filter();
      boolean shared = kept.owner() == null;
      return new FilterBody(
          kept.id(),
          kept.version(),
          !shared,
          filter.name(),
          filter.of().word(),
          filter.text(),
          filter.reference(shared),
          kept.changedAt(),
          kept.changedBy());
    }
  }

  @GET
  @Path("saved")
  @Operation(
      operationId = "listSavedFilters",
      summary = "Saved filters by name: those that all have, and one’s own")
  public List<FilterBody> all(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store.all(project.id(), filters.account()).stream().map(FilterBody::of).toList();
  }

  @GET
  @Path("saved/{filter}/uses")
  @Operation(operationId = "listSavedFilterUses", summary = "What names a saved filter")
  public List<UseBody> uses(@PathParam("project") String key, @PathParam("filter") long id) {
    Project project = caller.project(key, Right.READ);
    Long account = filters.account();
    return store.uses(project.id(), account, store.one(project.id(), account, id)).stream()
        .map(UseBody::of)
        .toList();
  }

  @POST
  @Path("saved")
  @Operation(operationId = "addSavedFilter", summary = "Keep a filter for all of the project")
  public FilterBody add(@PathParam("project") String key, @Nullable SaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    return add(project, null, body);
  }

  @POST
  @Path("mine")
  @Operation(operationId = "addOwnFilter", summary = "Keep a filter of one’s own")
  public FilterBody addMine(@PathParam("project") String key, @Nullable SaidBody body) {
    Project project = caller.project(key, Right.READ);
    return add(project, caller.person().accountId(), body);
  }

  private FilterBody add(Project project, @Nullable Long owner, @Nullable SaidBody body) {
    SavedFilter filter = there(body).filterSaid();
    filter.check(filters.names(project), owner == null, null, clock.instant());
    return FilterBody.of(store.add(project.id(), owner, filter, hand()));
  }

  @PUT
  @Path("saved/{filter}")
  @Operation(
      operationId = "changeSavedFilter",
      summary =
          "Put another filter in its place, for all; one’s own becomes theirs. With another name, it"
              + " is named so wherever it is used")
  public FilterBody change(
      @PathParam("project") String key, @PathParam("filter") long id, @Nullable ChangeBody body) {
    return change(caller.project(key, Right.EDIT), id, true, body);
  }

  @PUT
  @Path("mine/{filter}")
  @Operation(operationId = "changeOwnFilter", summary = "Put another filter in its place")
  public FilterBody changeMine(
      @PathParam("project") String key, @PathParam("filter") long id, @Nullable ChangeBody body) {
    Project project = caller.project(key, Right.READ);
    isMine(project, id);
    return change(project, id, false, body);
  }

  private FilterBody change(Project project, long id, boolean shared, @Nullable ChangeBody body) {
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED, "say which version of the filter you saw, as JSON: version");
    }
    SavedFilter filter = there(body.filter()).filterSaid();
    Long account = filters.account();
    SavedFilter.Kept before = store.one(project.id(), account, id);
    // What becomes shared stood behind another word so far.
    String name = shared == (before.owner() == null) ? before.filter().name() : null;
    filter.check(filters.names(project), shared, name, clock.instant());
    return FilterBody.of(
        store.change(project.id(), account, id, shared, body.version(), filter, hand()));
  }

  @DELETE
  @Path("saved/{filter}")
  @Operation(
      operationId = "removeSavedFilter",
      summary = "Take a filter away, for all; not while something names it")
  public void remove(@PathParam("project") String key, @PathParam("filter") long id) {
    Project project = caller.project(key, Right.EDIT);
    store.remove(project.id(), filters.account(), id);
  }

  @DELETE
  @Path("mine/{filter}")
  @Operation(operationId = "removeOwnFilter", summary = "Take a filter of one’s own away")
  public void removeMine(@PathParam("project") String key, @PathParam("filter") long id) {
    Project project = caller.project(key, Right.READ);
    isMine(project, id);
    store.remove(project.id(), filters.account(), id);
  }

  private void isMine(Project project, long id) {
    long account = caller.person().accountId();
    if (!Long.valueOf(account).equals(store.one(project.id(), account, id).owner())) {
      throw new CellarException(
          ProblemCode.NOT_FOUND, "you have no saved filter " + id + " of your own");
    }
  }

  private static SaidBody there(@Nullable SaidBody body) {
    if (body == null) {
      throw invalid("say the filter, as JSON: name, of, filter");
    }
    return body;
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
