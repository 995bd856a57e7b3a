package org.vinecellar.service.live;

import io.smallrye.common.annotation.Blocking;
import io.smallrye.mutiny.Multi;
import io.smallrye.mutiny.Uni;
import io.vertx.core.http.HttpServerRequest;
import jakarta.inject.Singleton;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.sse.OutboundSseEvent;
import jakarta.ws.rs.sse.Sse;
import java.time.Duration;
import java.util.concurrent.CompletionStage;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.access.Identify;
import org.vinecellar.service.access.Projects;
import org.vinecellar.service.access.SessionCookie;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;

/** News of a project's runs and failure groups, as server-sent events. */
@Path("/api/v1/projects/{project}/news")
@Tag(name = "live")
@Singleton
public class NewsResource {
  private static final Duration SIGN_OF_LIFE = Duration.ofSeconds(15);

  private final RunNews news;
  private final Caller caller;
  private final Identify identify;
  private final SessionCookie cookie;
  private final Projects projects;
  private final Rooms rooms;
  private final Crowd watchers;

  NewsResource(
      RunNews news,
      Caller caller,
      Identify identify,
      SessionCookie cookie,
      Projects projects,
      Rooms rooms,
      VineConfig config) {
    this.news = news;
    this.identify = identify;
    this.cookie = cookie;
    this.projects = projects;
    this.rooms = rooms;
    this.watchers = new Crowd("watchers", config.door().watchers(), config.door().watchers());
    this.caller = caller;
  }

  @GET
  @Blocking
  @Produces(MediaType.SERVER_SENT_EVENTS)
  @Operation(
      operationId = "watchRuns",
      summary =
          "An event “run” with the number of each run that changes, and “group” with that of each"
              + " failure group of which something is decided; run 0 for anything")
  public Multi<OutboundSseEvent> watch(
      @PathParam("project") String key, @Context HttpServerRequest request, @Context Sse sse) {
    Project project = caller.project(key, Right.READ);
    Crowd.Place place = watchers.enter(Addresses.of(request));
    Identify.Shown shown =
        new Identify.Shown("GET", request.getHeader("Authorization"), cookie.in(request), null);
    Multi<OutboundSseEvent> changes =
        news.of(project.id())
            .map(one -> sse.newEventBuilder().name(one.event()).data(one.id()).build());
    // At each tick it is asked again whether the watcher may: a revoked token ends the news.
    Multi<OutboundSseEvent> signs =
        Multi.createFrom()
            .ticks()
            .every(SIGN_OF_LIFE)
            .onOverflow()
            .drop()
            .onItem()
            .transformToUniAndConcatenate(
                tick -> Uni.createFrom().completionStage(() -> stillMay(shown, key)))
            .map(tick -> sse.newEventBuilder().comment("still here").build());
    return Multi.createBy().merging().streams(changes, signs).onTermination().invoke(place::leave);
  }

  private CompletionStage<Project> stillMay(Identify.Shown shown, String key) {
    return rooms.run(Room.DOOR, () -> projects.enter(identify.who(shown), key, Right.READ));
  }

  /** How many watch. */
  public int size() {
    return watchers.size();
  }
}
