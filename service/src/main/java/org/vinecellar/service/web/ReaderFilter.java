package org.vinecellar.service.web;

import io.vertx.core.http.HttpServerRequest;
import jakarta.enterprise.inject.Instance;
import jakarta.inject.Singleton;
import jakarta.ws.rs.container.ContainerResponseContext;
import jakarta.ws.rs.core.StreamingOutput;
import org.jboss.resteasy.reactive.server.ServerResponseFilter;

/** Has every answer that is written while it is made written by {@link Readers}. */
@Singleton
public class ReaderFilter {
  /** Filters are there before what runs. */
  private final Instance<Readers> readers;

  ReaderFilter(Instance<Readers> readers) {
    this.readers = readers;
  }

  /** Called with every answer. */
  @ServerResponseFilter
  public void pace(ContainerResponseContext response, HttpServerRequest request) {
    if (response.getEntity() instanceof StreamingOutput answer) {
      response.setEntity(readers.get().paced(request, answer));
    }
  }
}
