package org.vinecellar.service.web;

import io.vertx.core.http.HttpServerResponse;
import io.vertx.ext.web.RoutingContext;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.MultivaluedMap;
import jakarta.ws.rs.ext.Provider;
import java.io.OutputStream;
import java.lang.annotation.Annotation;
import java.lang.reflect.Type;
import org.jboss.resteasy.reactive.server.core.ResteasyReactiveRequestContext;
import org.jboss.resteasy.reactive.server.spi.ResteasyReactiveResourceInfo;
import org.jboss.resteasy.reactive.server.spi.ServerMessageBodyWriter;
import org.jboss.resteasy.reactive.server.spi.ServerRequestContext;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Loops;
import org.vinecellar.service.guard.Rooms;

/** Hands an answer that is a download to who sends it, and the thread back. */
@Provider
public class DownloadWriter implements ServerMessageBodyWriter<Downloads.Download> {
  private final Downloads downloads;

  DownloadWriter(Downloads downloads) {
    this.downloads = downloads;
  }

  @Override
  public boolean isWriteable(
      Class<?> type, Type generic, ResteasyReactiveResourceInfo target, MediaType mediaType) {
    return type == Downloads.Download.class;
  }

  @Override
  public boolean isWriteable(
      Class<?> type, Type generic, Annotation[] annotations, MediaType mediaType) {
    return type == Downloads.Download.class;
  }

  @Override
  public void writeResponse(
      Downloads.Download download, Type generic, ServerRequestContext server) {
    ResteasyReactiveRequestContext context = (ResteasyReactiveRequestContext) server;
    RoutingContext routing = context.unwrap(RoutingContext.class);
    HttpServerResponse response = routing.response();
    Crowd.Place place = downloads.enter(routing.request());
    // The framework sets headers with the first byte; this one must be known before it.
    response.putHeader("Content-Length", Long.toString(download.count()));
    context.suspend();
    Loops.of(routing)
        .runOnContext(
            nothing ->
                Rooms.then(
                    downloads.send(
                        routing.request(),
                        download.content(),
                        download.from(),
                        download.count(),
                        place),
                    (done, failure) -> context.resume()));
  }

  @Override
  public void writeTo(
      Downloads.Download download,
      Class<?> type,
      Type generic,
      Annotation[] annotations,
      MediaType mediaType,
      MultivaluedMap<String, Object> headers,
      OutputStream out) {
    throw new UnsupportedOperationException("downloads are sent by the service alone");
  }
}
