package org.vinecellar.service.guard;

import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.ext.web.RoutingContext;

/** The event loop of a request, which other threads must go back to. */
public final class Loops {
  private static final String LOOP = "vine.loop";

  private Loops() {}

  /** To be called on the event loop, before any other thread sees the request. */
  public static void remember(RoutingContext request) {
    request.put(LOOP, Vertx.currentContext());
  }

  /** The event loop of a request that was remembered. */
  public static Context of(RoutingContext request) {
    Context loop = request.get(LOOP);
    if (loop == null) {
      throw new IllegalStateException("the request did not come through the front door");
    }
    return loop;
  }
}
