package org.vinecellar.service.door;

import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.buffer.Buffer;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.ext.web.Router;
import io.vertx.ext.web.RoutingContext;
import io.vertx.ext.web.impl.RoutingContextInternal;
import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.event.Observes;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Identify;
import org.vinecellar.service.access.SessionCookie;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Loops;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.problem.Problems;

/**
 * All requests to the API pass here before a resource sees them, without a worker thread: it is
 * found out who comes, strangers are sent away by the header alone, and a small body is read whole,
 * so that nobody who sends slowly holds up a thread.
 */
@ApplicationScoped
public class FrontDoor {
  /** Leaves requests time to be read to their end after they were refused. */
  private static final long LINGER_MS = 2_000;

  private static final int FIRST = -2000;

  private final Identify identify;
  private final SessionCookie cookie;
  private final Rooms rooms;
  private final Problems problems;
  private final Bodies bodies;
  private final Crowd requests;

  FrontDoor(
      Identify identify,
      SessionCookie cookie,
      Rooms rooms,
      Problems problems,
      Bodies bodies,
      VineConfig config) {
    this.cookie = cookie;
    this.identify = identify;
    this.rooms = rooms;
    this.problems = problems;
    this.bodies = bodies;
    this.requests =
        new Crowd("requests", config.door().requests(), config.door().requestsOfAddress());
  }

  void register(@Observes Router router) {
    router.route("/api/*").order(FIRST).handler(this::enter);
  }

  /** How many requests are inside. */
  public int size() {
    return requests.size();
  }

  private void enter(RoutingContext context) {
    Loops.remember(context);
    HttpServerRequest request = context.request();
    Route route = Route.of(request.method().name(), context.normalizedPath());
    context.addEndHandler(
        ended -> {
          if (ended.succeeded()) {
            linger(request);
          }
        });
    try {
      if (route.isCounted()) {
        Crowd.Place place = requests.enter(Addresses.of(request));
        context.addEndHandler(ended -> place.leave());
      }
      Bodies.requirePlain(request);
      Bodies.requireLength(request, route.mostBytes());
    } catch (CellarException e) {
      problems.send(context.response(), e);
      return;
    }
    if (route.isOpenToAll()) {
      // Who signs in is somebody else afterwards, whoever it was before.
      known(context, route, new Visitor.Nobody());
      return;
    }
    Identify.Shown shown =
        new Identify.Shown(
            request.method().name(),
            request.getHeader("Authorization"),
            cookie.in(request),
            request.getHeader("X-Vine-Csrf"));
    if (!shown.isAnything()) {
      known(context, route, new Visitor.Nobody());
      return;
    }
    Context thread = Vertx.currentContext();
    Rooms.then(
        rooms.run(Room.DOOR, () -> identify.who(shown)),
        thread,
        (visitor, failure) -> {
          if (failure != null) {
            problems.send(context.response(), failure);
          } else {
            known(context, route, visitor);
          }
        });
  }

  private void known(RoutingContext context, Route route, Visitor visitor) {
    if (visitor instanceof Visitor.Nobody && !route.isOpenToAll()) {
      problems.send(context.response(), Visitor.unknown());
      return;
    }
    context.put(Identify.VISITOR, visitor);
    if (route.body() != Route.Body.SMALL || !Bodies.isAny(context.request())) {
      context.next();
      return;
    }
    Context thread = Vertx.currentContext();
    Rooms.then(
        bodies.read(context, route.mostBytes()),
        thread,
        (body, failure) -> bodyRead(context, body, failure));
  }

  private void bodyRead(
      RoutingContext context, @Nullable Buffer body, @Nullable Throwable failure) {
    if (failure != null || body == null) {
      problems.send(
          context.response(),
          failure == null
              ? new CellarException(ProblemCode.INTERNAL, "a body was read and is not there")
              : failure);
      return;
    }
    ((RoutingContextInternal) context).setBody(body);
    context.next();
  }

  /**
   * After the answer: what still comes of the body is thrown away for a moment, so that the sender
   * sees the answer rather than a broken connection; then the connection is closed.
   */
  private static void linger(HttpServerRequest request) {
    if (request.isEnded()) {
      return;
    }
    Context thread = Vertx.currentContext();
    if (thread == null) {
      request.connection().close();
      return;
    }
    try {
      request.exceptionHandler(broken -> {});
      request.handler(thrownAway -> {});
      request.resume();
    } catch (IllegalStateException e) {
      // It ended in this very moment.
      return;
    }
    thread
        .owner()
        .setTimer(
            LINGER_MS,
            timer -> {
              if (!request.isEnded()) {
                request.connection().close();
              }
            });
  }
}
