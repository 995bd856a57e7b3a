package org.vinecellar.service.triage;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.MediaType;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.TriageStore.Decided;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.Show;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.triage.TriageResource.DecidedBody;
import org.vinecellar.service.web.Pages;
import org.vinecellar.service.work.Worker;

/** Failure groups over all runs. */
@Path("/api/v1/projects/{project}/groups")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class DeskResource {
  private static final int USUAL = 100;
  private static final int MOST = 500;
  private static final int MOST_LEFT_OUT = 10_000;
  private static final int MOST_DAYS = 36_500;
  private static final int MAX_NAME = 300;
  private static final int MOST_JOINED = 50;
  private static final int MOST_PARTED = 500;

  private final DeskStore store;
  private final Caller caller;
  private final Worker worker;
  private final FilterReader filters;
  private final InstantSource clock;

  DeskResource(
      DeskStore store, Caller caller, Worker worker, FilterReader filters, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.worker = worker;
    this.filters = filters;
    this.clock = clock;
  }

  @GET
  @Operation(
      operationId = "listGroups",
      summary = "Failure groups, the widest and latest unexplained ones first")
  public DeskBody groups(
      @PathParam("project") String key,
      @QueryParam("show") @Nullable String show,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("from") @Nullable Integer from,
      @QueryParam("limit") @Nullable Integer limit) {
    Project project = caller.project(key, Right.READ);
    if (days != null && (days < 1 || days > MOST_DAYS)) {
      throw invalid("days is " + days + "; it can be 1 to " + MOST_DAYS + ", or left out");
    }
    if (from != null && (from < 0 || from > MOST_LEFT_OUT)) {
      throw invalid("from is " + from + "; it can be 0 to " + MOST_LEFT_OUT);
    }
    Instant now = clock.instant();
    Instant since = days == null ? null : now.minus(Duration.ofDays(days));
    DeskStore.Question question =
        new DeskStore.Question(
            shown(show),
            since,
            filters.read(project, filter, Thing.GROUP),
            caller.name(),
            now,
            from == null ? 0 : from,
            Pages.limit(limit, USUAL, MOST));
    return DeskBody.of(
        store.groups(project.id(), question), store.sums(project.id(), since, caller.name()));
  }

  private static Show shown(@Nullable String word) {
    return word == null
        ? Show.UNSORTED
        : Show.ofWord(word)
            .orElseThrow(
                () ->
                    invalid(
                        "show is “"
                            + word
                            + "”; it can be "
                            + Arrays.stream(Show.values())
                                .map(Show::word)
                                .collect(Collectors.joining(", "))));
  }

  @GET
  @Path("{group}")
  @Operation(operationId = "getGroup", summary = "One failure group over all its runs")
  public GroupBody group(@PathParam("project") String key, @PathParam("group") long group) {
    Project project = caller.project(key, Right.READ);
    return store
        .group(project.id(), group)
        .map(GroupBody::of)
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "there is no failure group " + group + "; perhaps its runs were deleted"));
  }

  /**
   * What somebody decides of a whole group.
   *
   * @param category by its name; left out where another decision is accepted
   * @param comment Markdown
   * @param until runs that begin then or later are not explained by it; null for no end
   * @param untilClosed whether it ends when the tickets of the group are closed; no when left out
   * @param accepts a decision on a like group, which then explains this one, too
   */
  @Schema(name = "NewGroupDecision")
  public record GroupVerdictBody(
      @Schema(nullable = true) @Nullable String category,
      @Schema(nullable = true) @Nullable String comment,
      @Schema(nullable = true) @Nullable Instant until,
      @Schema(nullable = true) @Nullable Boolean untilClosed,
      @Schema(nullable = true) @Nullable Long accepts) {}

  @POST
  @Path("{group}/decision")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "decideGroup",
      summary = "Explain a failure group: all that it has, and what comes")
  public DecidedBody decide(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @Nullable GroupVerdictBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw invalid("say which category, as JSON: category, and perhaps comment");
    }
    Hand hand = hand();
    if (body.until() != null && !body.until().isAfter(hand.now())) {
      throw invalid("until is " + body.until() + ", which is past; leave it out for no end");
    }
    Decided decided =
        body.accepts() == null
            ? store.decide(
                project.id(),
                group,
                new DeskStore.Verdict(
                    VerdictWords.category(body.category()),
                    VerdictWords.comment(body.comment()),
                    body.until(),
                    Boolean.TRUE.equals(body.untilClosed())),
                hand)
            : accepted(project, group, body, body.accepts(), hand);
    worker.soon();
    return DecidedBody.of(decided);
  }

  private Decided accepted(
      Project project, long group, GroupVerdictBody body, long decision, Hand hand) {
    if (body.category() != null || body.comment() != null || body.untilClosed() != null) {
      throw invalid(
          "category, comment and end are those of the decision that is accepted; leave them out");
    }
    return store.accept(project.id(), group, decision, body.until(), hand);
  }

  /**
   * When a cause was mended.
   *
   * @param at runs that begin then or later are explained no more; null for now
   */
  @Schema(name = "Mended")
  public record MendedBody(@Schema(nullable = true) @Nullable Instant at) {}

  @POST
  @Path("{group}/mended")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "mendGroup",
      summary = "What was decided of the group is over; should it fail again, it asks again")
  public void mended(
      @PathParam("project") String key, @PathParam("group") long group, @Nullable MendedBody body) {
    Project project = caller.project(key, Right.EDIT);
    Instant now = clock.instant();
    Instant at = body == null || body.at() == null ? now : body.at();
    if (at.isAfter(now)) {
      throw invalid("at is " + at + ", which is still to come; leave it out for now");
    }
    store.mended(project.id(), group, at, hand());
  }

  /** Groups, by their IDs. */
  @Schema(name = "GroupsToJoin")
  public record JoinBody(@Nullable List<@Nullable Long> groups) {}

  @POST
  @Path("{group}/joined")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "joinGroups",
      summary = "Put other groups together with this one, which stays")
  public void join(
      @PathParam("project") String key, @PathParam("group") long group, @Nullable JoinBody body) {
    Project project = caller.project(key, Right.EDIT);
    List<Long> groups = ids(body == null ? null : body.groups(), MOST_JOINED, "groups");
    store.join(project.id(), group, groups, hand());
    worker.soon();
  }

  /** Tests, by their IDs. */
  @Schema(name = "TestsToPart")
  public record PartBody(@Nullable List<@Nullable Long> tests) {}

  /** The group that was made. */
  @Schema(name = "PartedGroup")
  public record PartedBody(long group) {}

  @POST
  @Path("{group}/parted")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "partGroup",
      summary = "Take what some tests have of a group out of it: it is another cause")
  public PartedBody part(
      @PathParam("project") String key, @PathParam("group") long group, @Nullable PartBody body) {
    Project project = caller.project(key, Right.EDIT);
    List<Long> tests = ids(body == null ? null : body.tests(), MOST_PARTED, "tests");
    long made = store.part(project.id(), group, tests, hand());
    worker.soon();
    return new PartedBody(made);
  }

  @DELETE
  @Path("{group}/regrouped")
  @Operation(
      operationId = "undoRegrouping",
      summary = "Undo that a group was joined to another one, or was taken out of one")
  public void asFound(@PathParam("project") String key, @PathParam("group") long group) {
    Project project = caller.project(key, Right.EDIT);
    store.asFound(project.id(), group, hand());
    worker.soon();
  }

  private static List<Long> ids(@Nullable List<@Nullable Long> ids, int most, String what) {
    if (ids == null
        || ids.isEmpty()
        || ids.size() > most
        || ids.stream().anyMatch(Objects::isNull)) {
      throw invalid("say which, as JSON: " + what + ", a list of 1 to " + most + " IDs");
    }
    return ids.stream().map(Objects::requireNonNull).toList();
  }

  /**
   * Who looks after a group.
   *
   * @param to a name; null for nobody
   */
  @Schema(name = "Assigned")
  public record AssignedBody(@Schema(nullable = true) @Nullable String to) {}

  @PUT
  @Path("{group}/assigned")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "assignGroup", summary = "Give a failure group to somebody")
  public void assign(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @Nullable AssignedBody body) {
    Project project = caller.project(key, Right.EDIT);
    String to = body == null || body.to() == null ? "" : body.to().replace("\0", "").strip();
    if (to.length() > MAX_NAME) {
      throw invalid("the name is longer than " + MAX_NAME + " characters");
    }
    store.assign(project.id(), group, to.isEmpty() ? null : to, hand());
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
