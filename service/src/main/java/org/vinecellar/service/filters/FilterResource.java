package org.vinecellar.service.filters;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Completion;
import org.vinecellar.core.filters.FilterException;
import org.vinecellar.core.filters.FilterParser;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;

/** Help for who writes a filter. */
@Path("/api/v1/projects/{project}/filters")
@Tag(name = "runs")
@Produces(MediaType.APPLICATION_JSON)
public class FilterResource {
  private static final int MOST = 30;

  private final RunStore store;
  private final Caller caller;
  private final InstantSource clock;

  FilterResource(RunStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
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
   * @param from where the word begins that is being written
   * @param to where it ends
   * @param proposals that could stand in its place
   */
  @Schema(name = "FilterHelp")
  public record HelpBody(
      @Schema(nullable = true) @Nullable FaultBody fault,
      int from,
      int to,
      List<ProposalBody> proposals) {}

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
    Thing thing = thing(of);
    String filter = text == null ? "" : text;
    if (filter.length() > FilterParser.MAX_LENGTH) {
      return new HelpBody(fault(filter, thing), filter.length(), filter.length(), List.of());
    }
    Completion completion = Completion.at(filter, at == null ? filter.length() : at, thing);
    List<ProposalBody> proposals = new ArrayList<>();
    completion
        .proposals()
        .forEach(one -> proposals.add(new ProposalBody(one.text(), one.meaning())));
    proposals.addAll(found(project.id(), completion));
    return new HelpBody(
        fault(filter, thing), completion.from(), completion.to(), List.copyOf(proposals));
  }

  private static Thing thing(@Nullable String of) {
    return Arrays.stream(Thing.values())
        .filter(thing -> thing.word().equals(of))
        .findFirst()
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.INVALID_VALUE,
                    "name what the filter is of, as in ?of=run; there are: "
                        + Arrays.stream(Thing.values())
                            .map(Thing::word)
                            .collect(Collectors.joining(", "))));
  }

  private @Nullable FaultBody fault(String text, Thing thing) {
    try {
      Resolver.read(text, thing, clock.instant());
      return null;
    } catch (FilterException e) {
      return new FaultBody(e.at(), e.said());
    }
  }

  /** Keys and values that there are. What cannot be found at once is not proposed. */
  private List<ProposalBody> found(int project, Completion completion) {
    if (completion.begun().indexOf(0) >= 0) {
      return List.of();
    }
    try {
      Attribute keys = completion.keysOf();
      if (keys != null) {
        String before = keys.word() + ".";
        String begun = completion.begun().substring(completion.begun().indexOf('.') + 1);
        return store.keys(project, keys, begun, MOST).stream()
            // A key with a dot is asked in brackets.
            .filter(key -> key.matches("[A-Za-z][A-Za-z0-9_-]*"))
            .map(key -> new ProposalBody(before + key + " ", ""))
            .toList();
      }
      Attribute attribute = completion.valuesOf();
      if (attribute == null) {
        return List.of();
      }
      return store.values(project, attribute, completion.key(), completion.begun(), MOST).stream()
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
