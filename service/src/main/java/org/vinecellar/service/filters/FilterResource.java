package org.vinecellar.service.filters;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Completion;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.FilterException;
import org.vinecellar.core.filters.FilterParser;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;

/** Help for who writes a filter. */
@Path("/api/v1/projects/{project}/filters")
@Tag(name = "filters")
@Produces(MediaType.APPLICATION_JSON)
public class FilterResource {
  private static final int MOST = 30;
  private static final int MEANING = 100;

  private final RunStore runs;
  private final SavedFilterStore store;
  private final FilterReader filters;
  private final Caller caller;

  FilterResource(RunStore runs, SavedFilterStore store, FilterReader filters, Caller caller) {
    this.runs = runs;
    this.store = store;
    this.filters = filters;
    this.caller = caller;
  }

  /**
   * What is wrong with a filter.
   *
   * @param position where in its text, from 0
   */
  @Schema(name = "FilterFault")
  public record FaultBody(int position, String text) {}

  /** What could stand there. */
  @Schema(name = "FilterProposal")
  public record ProposalBody(String text, String meaning) {}

  /**
   * A filter that is being written.
   *
   * @param fault null when it can be understood
   * @param tree null when it cannot be read, or is empty
   * @param from where the word begins that is being written
   * @param to where it ends
   * @param proposals that could stand in its place
   */
  @Schema(name = "FilterHelp")
  public record HelpBody(
      @Schema(nullable = true) @Nullable FaultBody fault,
      @Schema(nullable = true) @Nullable TreeBody tree,
      int from,
      int to,
      List<ProposalBody> proposals) {}

  @GET
  @Path("catalogue")
  @Operation(operationId = "getFilterCatalogue", summary = "What can be asked in filters")
  public List<CatalogueBody> catalogue(@PathParam("project") String key) {
    Project unused = caller.project(key, Right.READ);
    return CatalogueBody.all();
  }

  @GET
  @Operation(
      operationId = "helpWithFilter",
      summary = "What is wrong with a filter, and what could stand where somebody writes")
  public HelpBody help(
      @PathParam("project") String key,
      @Schema(enumeration = {"run", "result", "test", "group"}) @QueryParam("of")
          @Nullable String of,
      @QueryParam("text") @Nullable String text,
      @QueryParam("at") @Nullable Integer at) {
    Project project = caller.project(key, Right.READ);
    Thing thing = listed(of);
    String filter = text == null ? "" : text;
    if (filter.length() > FilterParser.MAX_LENGTH) {
      return new HelpBody(
          fault(project, filter, thing), null, filter.length(), filter.length(), List.of());
    }
    Completion completion = Completion.at(filter, at == null ? filter.length() : at, thing);
    List<ProposalBody> proposals = new ArrayList<>();
    completion
        .proposals()
        .forEach(one -> proposals.add(new ProposalBody(one.text(), one.meaning())));
    proposals.addAll(found(project.id(), completion));
    return new HelpBody(
        fault(project, filter, thing),
        tree(filter),
        completion.from(),
        completion.to(),
        List.copyOf(proposals));
  }

  /** What there are lists of. */
  static Thing listed(@Nullable String of) {
    return Thing.ofWord(of == null ? "" : of)
        .filter(Thing::isListed)
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.INVALID_VALUE,
                    "name what the filter is of, as in ?of=run; there are: "
                        + Arrays.stream(Thing.values())
                            .filter(Thing::isListed)
                            .map(Thing::word)
                            .collect(Collectors.joining(", "))));
  }

  private static @Nullable TreeBody tree(String text) {
    try {
      return text.isBlank() ? null : TreeBody.of(FilterParser.parse(text));
    } catch (FilterException e) {
      return null;
    }
  }

  private @Nullable FaultBody fault(Project project, String text, Thing thing) {
    try {
      Criterion unused = filters.read(project, text, thing);
      return null;
    } catch (FilterException e) {
      return new FaultBody(e.at(), e.said());
    }
  }

  private static String shortened(String text) {
    return text.length() > MEANING ? text.substring(0, MEANING) + "…" : text;
  }

  private List<ProposalBody> saved(int project, Completion.Saved saved, String begun) {
    boolean shared = saved.word().equals(SavedNames.SHARED);
    String lower = begun.toLowerCase(Locale.ROOT);
    return store.all(project, filters.account()).stream()
        .filter(kept -> kept.owner() == null == shared && kept.filter().of() == saved.of())
        .filter(kept -> kept.filter().name().toLowerCase(Locale.ROOT).startsWith(lower))
        .limit(MOST)
        .map(
            kept ->
                new ProposalBody(
                    Completion.quoted(kept.filter().name()), shortened(kept.filter().text())))
        .toList();
  }

  /** Keys and values that there are. What cannot be found at once is not proposed. */
  private List<ProposalBody> found(int project, Completion completion) {
    if (completion.begun().indexOf(0) >= 0) {
      return List.of();
    }
    try {
      Completion.Saved saved = completion.savedOf();
      if (saved != null) {
        return saved(project, saved, completion.begun());
      }
      Attribute keys = completion.keysOf();
      if (keys != null) {
        String before = keys.word() + ".";
        String begun = completion.begun().substring(completion.begun().indexOf('.') + 1);
        return runs.keys(project, keys, begun, MOST).stream()
            // A key with a dot is asked in brackets.
            .filter(key -> key.matches("[A-Za-z][A-Za-z0-9_-]*"))
            .map(key -> new ProposalBody(before + key + " ", ""))
            .toList();
      }
      Attribute attribute = completion.valuesOf();
      if (attribute == null) {
        return List.of();
      }
      return runs.values(project, attribute, completion.key(), completion.begun(), MOST).stream()
          .map(value -> new ProposalBody(Completion.quoted(value), ""))
          .toList();
    } catch (CellarException e) {
      if (e.code() == ProblemCode.TOO_MUCH_TO_SEARCH || e.code() == ProblemCode.TOO_MANY_AT_ONCE) {
        return List.of();
      }
      throw e;
    }
  }
}
