package org.vinecellar.service.live;

import io.smallrye.common.annotation.Blocking;
import io.smallrye.mutiny.Multi;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.sse.OutboundSseEvent;
import jakarta.ws.rs.sse.Sse;
import java.time.Duration;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.vinecellar.core.access.Project;
import org.vinecellar.service.access.Caller;

/** News of a project's runs, as server-sent events. */
@Path("/api/v1/projects/{project}/news")
@Tag(name = "live")
public class NewsResource {
  private static final Duration SIGN_OF_LIFE = Duration.ofSeconds(15);

  private final RunNews news;
  private final Caller caller;

  NewsResource(RunNews news, Caller caller) {
    this.news = news;
    this.caller = caller;
  }

  @GET
  @Blocking
  @Produces(MediaType.SERVER_SENT_EVENTS)
  @Operation(
      operationId = "watchRuns",
      summary = "An event “run” with the number of each run that changes; 0 for any of them")
  public Multi<OutboundSseEvent> watch(@PathParam("project") String key, @Context Sse sse) {
    Project project = caller.project(key);
    Multi<OutboundSseEvent> changes =
        news.of(project.id())
            .map(one -> sse.newEventBuilder().name("run").data(one.runId()).build());
    Multi<OutboundSseEvent> signs =
        Multi.createFrom()
            .ticks()
            .every(SIGN_OF_LIFE)
            .onOverflow()
            .drop()
            .map(tick -> sse.newEventBuilder().comment("still here").build());
    return Multi.createBy().merging().streams(changes, signs);
  }
}
