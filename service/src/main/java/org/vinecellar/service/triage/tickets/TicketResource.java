package org.vinecellar.service.triage.tickets;

import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import java.util.List;
import java.util.UUID;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.decisions.Ticket;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.TicketDraft;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TicketStore.Kept;
import org.vinecellar.core.triage.tickets.TrackerException;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.guard.PublicAddress;
import org.vinecellar.service.triage.tickets.EntryBody.FoundBody;

/** Tickets of a failure group. */
@Path("/api/v1/projects/{project}/groups/{group}/tickets")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class TicketResource {
  private static final int LONGEST_SEARCH = 300;
  private static final int LONGEST_TITLE = 500;
  private static final int LONGEST_TEXT = 50_000;
  private static final int LONGEST_COMMENT = 10_000;

  private final TicketStore store;
  private final Trackers trackers;
  private final TicketKeeper keeper;
  private final GroupWords words;
  private final PublicAddress address;
  private final Caller caller;
  private final InstantSource clock;

  TicketResource(
      TicketStore store,
      Trackers trackers,
      TicketKeeper keeper,
      GroupWords words,
      PublicAddress address,
      Caller caller,
      InstantSource clock) {
    this.store = store;
    this.trackers = trackers;
    this.keeper = keeper;
    this.words = words;
    this.address = address;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * A new ticket, to be looked over before it is made.
   *
   * @param text Markdown
   */
  @Schema(name = "TicketDraft")
  public record DraftBody(String title, String text) {}

  /**
   * An entry that there is, by its key or the address of its page; or a new one, by its title.
   *
   * @param text of a new one, Markdown
   * @param say whether an entry that there is shall be told of the group; yes when left out
   */
  @Schema(name = "NewTicket")
  public record NewBody(
      @Schema(nullable = true) @Nullable String key,
      @Schema(nullable = true) @Nullable String title,
      @Schema(nullable = true) @Nullable String text,
      @Schema(nullable = true) @Nullable Boolean say) {}

  /** What a ticket is told, in Markdown. */
  @Schema(name = "NewTicketComment")
  public record CommentBody(@Nullable String text) {}

  @GET
  @Operation(operationId = "listTickets", summary = "The tickets of a failure group")
  public List<TicketBody> tickets(
      @PathParam("project") String key, @PathParam("group") long group) {
    Project project = caller.project(key, Right.READ);
    return TicketBody.of(store.ofGroup(project.id(), group));
  }

  @GET
  @Path("alike")
  @Operation(
      operationId = "findTickets",
      summary = "Entries of the tracker, those first that are most like the failure group")
  public FoundBody alike(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @QueryParam("text") @Nullable String text) {
    Project project = caller.project(key, Right.READ);
    String wanted = text == null ? "" : text.strip();
    if (wanted.length() > LONGEST_SEARCH) {
      throw invalid("the text is longer than " + LONGEST_SEARCH + " characters");
    }
    Kept kept = tracker(project);
    List<String> linked =
        store.ofGroup(project.id(), group).stream()
            .map(ticket -> ticket.key() == null ? "" : ticket.key())
            .toList();
    return words
        .of(project.id(), group)
        .found(trackers.of(kept.settings(), kept.secret()), wanted, linked, clock);
  }

  @GET
  @Path("draft")
  @Operation(operationId = "draftTicket", summary = "A new ticket for the group, filled in")
  public DraftBody draft(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.READ);
    GroupWords.Of one = words.of(project.id(), group);
    TicketDraft draft = TicketDraft.of(one.detail(), one.sample(), page(project, one, request));
    return new DraftBody(draft.title(), draft.text());
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "addTicket",
      summary = "Link a group to an entry of the tracker, or make one; if it is away, that waits")
  public TicketBody add(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @Context HttpServerRequest request,
      @Nullable NewBody body) {
    Project project = caller.project(key, Right.EDIT);
    String of = body == null ? null : text(body.key());
    String title = body == null ? null : text(body.title());
    if (body == null || (of == null) == (title == null)) {
      throw invalid("say which entry, as JSON: its key; or a new one: title, and perhaps text");
    }
    Kept kept = tracker(project);
    if (of != null) {
      boolean say = body.say() == null || body.say();
      return link(project, kept, group, kept.settings().keyOf(of), say, request);
    }
    String text = body.text() == null ? "" : body.text().replace("\0", "");
    return TicketBody.of(make(project, kept, group, title == null ? "" : title, text));
  }

  private TicketBody link(
      Project project, Kept kept, long group, String key, boolean say, HttpServerRequest request) {
    GroupWords.Of one = words.of(project.id(), group);
    Entry seen = null;
    try {
      seen =
          trackers
              .of(kept.settings(), kept.secret())
              .read(key)
              .orElseThrow(
                  () ->
                      new CellarException(
                          ProblemCode.NOT_FOUND,
                          kept.settings().name() + " has no entry “" + key + "”"));
    } catch (TrackerException away) {
      // The link waits until it can be asked.
      seen = null;
    }
    String told =
        say && kept.settings().canComment() ? one.told(page(project, one, request)) : null;
    Ticket ticket = store.link(project.id(), group, key, seen, told, hand());
    keeper.soon(project.id(), ticket.id());
    return TicketBody.of(ticket);
  }

  private Ticket make(Project project, Kept kept, long group, String title, String text) {
    if (!kept.settings().canCreate()) {
      throw invalid(
          "nothing can be made in "
              + kept.settings().name()
              + " from here; make it there, and say"
              + " its key");
    }
    if (title.length() > LONGEST_TITLE || text.length() > LONGEST_TEXT) {
      throw invalid(
          "a title has up to " + LONGEST_TITLE + " characters, a text up to " + LONGEST_TEXT);
    }
    String mark = "vine-" + UUID.randomUUID().toString().replace("-", "").substring(0, 12);
    Ticket left =
        store.leave(
            project.id(),
            group,
            title,
            text.stripTrailing() + "\n\nReference: " + mark + "\n",
            mark,
            hand());
    List<Long> before = store.ofGroup(project.id(), group).stream().map(Ticket::id).toList();
    keeper.now(project.id(), left.id());
    // Perhaps it is one with an entry that was linked before.
    List<Ticket> after = store.ofGroup(project.id(), group);
    return after.stream()
        .filter(ticket -> ticket.id() == left.id())
        .findFirst()
        .or(() -> after.stream().filter(ticket -> !before.contains(ticket.id())).findFirst())
        .orElse(left);
  }

  @DELETE
  @Path("{ticket}")
  @Operation(operationId = "removeTicket", summary = "The ticket belongs to the group no more")
  public void remove(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @PathParam("ticket") long ticket) {
    Project project = caller.project(key, Right.EDIT);
    store.unlink(project.id(), group, ticket, hand());
  }

  @POST
  @Path("{ticket}/comments")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "commentTicket",
      summary = "Say something in the ticket; if the tracker is away, that waits")
  public void comment(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @PathParam("ticket") long ticket,
      @Nullable CommentBody body) {
    Project project = caller.project(key, Right.EDIT);
    String text = body == null ? null : text(body.text());
    if (text == null || text.length() > LONGEST_COMMENT) {
      throw invalid("say what, as JSON: text, of up to " + LONGEST_COMMENT + " characters");
    }
    Kept kept = tracker(project);
    if (!kept.settings().canComment()) {
      throw invalid("nothing can be said in " + kept.settings().name() + " from here");
    }
    store.say(project.id(), group, ticket, text + "\n\n— " + caller.name(), hand());
    keeper.soon(project.id(), ticket);
  }

  @POST
  @Path("{ticket}/asked")
  @Operation(operationId = "askForTicket", summary = "Ask the tracker now how the ticket stands")
  public TicketBody asked(
      @PathParam("project") String key,
      @PathParam("group") long group,
      @PathParam("ticket") long ticket) {
    Project project = caller.project(key, Right.EDIT);
    Kept unused = tracker(project);
    store.ask(project.id(), group, ticket, hand());
    keeper.now(project.id(), ticket);
    return store.ofGroup(project.id(), group).stream()
        .filter(one -> one.id() == ticket)
        .findFirst()
        .map(TicketBody::of)
        .orElseThrow(() -> new CellarException(ProblemCode.NOT_FOUND, "the ticket was taken away"));
  }

  private String page(Project project, GroupWords.Of one, HttpServerRequest request) {
    return address.base(request)
        + "/"
        + project.key()
        + "/triage?group="
        + one.detail().line().id();
  }

  private Kept tracker(Project project) {
    return store
        .tracker(project.id())
        .orElseThrow(
            () ->
                new CellarException(
                    ProblemCode.NOT_FOUND,
                    "the project has no tracker yet; an owner sets one up under Triage, Tracker"));
  }

  private static @Nullable String text(@Nullable String text) {
    String clean = text == null ? "" : text.replace("\0", "").strip();
    return clean.isEmpty() ? null : clean;
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
