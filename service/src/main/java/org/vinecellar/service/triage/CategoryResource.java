package org.vinecellar.service.triage;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.Category;
import org.vinecellar.core.triage.decisions.CategoryStore;
import org.vinecellar.core.triage.decisions.CategoryStore.Draft;
import org.vinecellar.service.access.Caller;

/** Kinds of causes. */
@Path("/api/v1/projects/{project}/categories")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class CategoryResource {
  private final CategoryStore store;
  private final Caller caller;

  CategoryResource(CategoryStore store, Caller caller) {
    this.store = store;
    this.caller = caller;
  }

  /**
   * A kind of cause.
   *
   * @param colour a name: claret, oak, slate, amber, teal, plum, moss or ink
   * @param counts whether its failures fail a gate
   * @param retired whether it is not offered any more
   */
  @Schema(name = "Category")
  public record CategoryBody(long id, String name, String colour, boolean counts, boolean retired) {
    static CategoryBody of(Category one) {
      return new CategoryBody(one.id(), one.name(), one.colour(), one.counts(), one.retired());
    }
  }

  /**
   * What somebody says of a category.
   *
   * @param colour a name: claret, oak, slate, amber, teal, plum, moss or ink; slate when left out
   * @param counts whether its failures fail a gate; yes when left out
   * @param retired whether it is not offered any more; no when left out
   */
  @Schema(name = "NewCategory")
  public record CategorySaidBody(
      @Nullable String name,
      @Schema(nullable = true) @Nullable String colour,
      @Schema(nullable = true) @Nullable Boolean counts,
      @Schema(nullable = true) @Nullable Boolean retired) {}

  /** In which order they are offered, by their IDs: all of them. */
  @Schema(name = "CategoryOrder")
  public record CategoryOrderBody(@Nullable List<@Nullable Long> categories) {}

  @GET
  @Operation(operationId = "listCategories", summary = "Kinds of causes, in their order")
  public List<CategoryBody> categories(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store.categories(project.id()).stream().map(CategoryBody::of).toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "addCategory", summary = "Make a category, after all others")
  public CategoryBody add(@PathParam("project") String key, @Nullable CategorySaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    return CategoryBody.of(store.add(project.id(), draft(body)));
  }

  @PUT
  @Path("{category}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "changeCategory",
      summary = "Change, retire or offer again a category, wherever it stands")
  public CategoryBody change(
      @PathParam("project") String key,
      @PathParam("category") long id,
      @Nullable CategorySaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    return CategoryBody.of(store.change(project.id(), id, draft(body)));
  }

  @PUT
  @Path("order")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "orderCategories", summary = "Put the categories into another order")
  public void order(@PathParam("project") String key, @Nullable CategoryOrderBody body) {
    Project project = caller.project(key, Right.EDIT);
    List<@Nullable Long> ids = body == null ? null : body.categories();
    if (ids == null || ids.size() > CategoryStore.MOST || ids.stream().anyMatch(Objects::isNull)) {
      throw invalid("say the order, as JSON: categories, a list of the IDs of all of them");
    }
    store.order(project.id(), ids.stream().map(Objects::requireNonNull).toList());
  }

  private static Draft draft(@Nullable CategorySaidBody body) {
    if (body == null || body.name() == null) {
      throw invalid("say the category, as JSON: name, and perhaps colour, counts and retired");
    }
    return new Draft(
        body.name(),
        body.colour() == null ? "slate" : body.colour(),
        body.counts() == null || body.counts(),
        body.retired() != null && body.retired());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
