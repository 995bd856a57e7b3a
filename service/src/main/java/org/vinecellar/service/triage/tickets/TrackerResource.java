package org.vinecellar.service.triage.tickets;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.Ranking;
import org.vinecellar.core.triage.tickets.TicketStore;
import org.vinecellar.core.triage.tickets.TicketStore.Kept;
import org.vinecellar.core.triage.tickets.TrackerSettings;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.triage.tickets.EntryBody.FoundBody;
import org.vinecellar.service.triage.tickets.TrackerBody.KeptBody;
import org.vinecellar.service.triage.tickets.TrackerBody.SaidBody;
import org.vinecellar.service.triage.tickets.TrackerBody.TrialBody;

/** How the tracker of a project is spoken to. */
@Path("/api/v1/projects/{project}/tracker")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class TrackerResource {
  private static final int TRIED = 10;
  private static final int LONGEST_SECRET = 4_000;
  private static final int LONGEST_TEXT = 300;

  private final TicketStore store;
  private final Trackers trackers;
  private final Caller caller;
  private final InstantSource clock;

  TrackerResource(TicketStore store, Trackers trackers, Caller caller, InstantSource clock) {
    this.store = store;
    this.trackers = trackers;
    this.caller = caller;
    this.clock = clock;
  }

  @GET
  @Operation(operationId = "getTracker", summary = "How the tracker is spoken to")
  public KeptBody tracker(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store
        .tracker(project.id())
        .map(kept -> KeptBody.of(kept, trackers.allows(kept.settings()), manages(key)))
        .orElse(KeptBody.NONE);
  }

  @PUT
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "setTracker", summary = "Say how the tracker is spoken to")
  public KeptBody set(@PathParam("project") String key, @Nullable SaidBody body) {
    Project project = caller.project(key, Right.MANAGE);
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED,
          "say which version of the tracker's settings you saw, as JSON: version; 0 for none");
    }
    TrackerSettings settings = TrackerBody.there(body.settings()).settings();
    Kept kept = store.keep(project.id(), settings, secret(body.secret()), body.version(), hand());
    return KeptBody.of(kept, trackers.allows(settings), true);
  }

  @DELETE
  @Operation(
      operationId = "removeTracker",
      summary = "Forget how the tracker is spoken to; tickets stay linked as they are known")
  public void remove(@PathParam("project") String key) {
    Project project = caller.project(key, Right.MANAGE);
    store.forget(project.id(), hand());
  }

  @POST
  @Path("trial")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "tryTracker", summary = "Look for a text by settings that are not kept")
  public FoundBody trial(@PathParam("project") String key, @Nullable TrialBody body) {
    Project project = caller.project(key, Right.MANAGE);
    if (body == null || body.text() == null || body.text().isBlank()) {
      throw invalid("say what to look for, as JSON: settings and text");
    }
    if (body.text().length() > LONGEST_TEXT) {
      throw invalid("the text is longer than " + LONGEST_TEXT + " characters");
    }
    TrackerSettings settings = TrackerBody.there(body.settings()).settings();
    String secret = secret(body.secret());
    if (secret == null) {
      secret =
          store
              .tracker(project.id())
              .filter(kept -> kept.settings().origin().equals(settings.origin()))
              .map(Kept::secret)
              .orElse(null);
    }
    List<Entry> found = trackers.of(settings, secret).find(body.text(), TRIED);
    return new FoundBody(
        List.of(body.text()),
        Ranking.of(body.text(), "", found).stream()
            .map(ranked -> EntryBody.of(ranked, false))
            .toList(),
        null);
  }

  private static @Nullable String secret(@Nullable String secret) {
    if (secret == null || secret.isEmpty()) {
      return null;
    }
    boolean plain = secret.chars().allMatch(c -> c >= 0x20 && c < 0x7f);
    if (secret.length() > LONGEST_SECRET || !plain) {
      throw invalid(
          "the secret has up to " + LONGEST_SECRET + " letters, digits and signs (ASCII)");
    }
    return secret;
  }

  private boolean manages(String key) {
    try {
      Project unused = caller.project(key, Right.MANAGE);
      return true;
    } catch (CellarException e) {
      return false;
    }
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
