package org.vinecellar.service.operate;

import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.ext.web.Router;
import io.vertx.ext.web.RoutingContext;
import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.event.Observes;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Identify;
import org.vinecellar.service.access.SessionCookie;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.problem.Problems;

/** Metrics are for who has their token, and for administrators. */
@ApplicationScoped
public class MetricsGate {
  private static final int FIRST = -3000;

  private final Identify identify;
  private final SessionCookie cookie;
  private final Rooms rooms;
  private final Problems problems;
  private final VineConfig config;

  MetricsGate(
      Identify identify, SessionCookie cookie, Rooms rooms, Problems problems, VineConfig config) {
    this.cookie = cookie;
    this.identify = identify;
    this.rooms = rooms;
    this.problems = problems;
    this.config = config;
  }

  void register(@Observes Router router) {
    router.route("/metrics").order(FIRST).handler(this::enter);
    router.route("/metrics/*").order(FIRST).handler(this::enter);
  }

  private void enter(RoutingContext context) {
    HttpServerRequest request = context.request();
    String authorization = request.getHeader("Authorization");
    if (isToken(authorization)) {
      context.next();
      return;
    }
    Identify.Shown shown = new Identify.Shown("GET", authorization, cookie.in(request), null);
    if (!shown.isAnything()) {
      problems.send(context.response(), refused());
      return;
    }
    Context loop = Vertx.currentContext();
    Rooms.then(
        rooms.run(Room.DOOR, () -> identify.who(shown)),
        loop,
        (visitor, failure) -> known(context, visitor, failure));
  }

  private void known(
      RoutingContext context, @Nullable Visitor visitor, @Nullable Throwable failure) {
    if (visitor instanceof Visitor.Person person && person.administrator()) {
      context.next();
    } else {
      problems.send(context.response(), failure == null ? refused() : failure);
    }
  }

  private boolean isToken(@Nullable String authorization) {
    String token = config.metrics().token().orElse("");
    return !token.isEmpty()
        && authorization != null
        && MessageDigest.isEqual(
            authorization.getBytes(StandardCharsets.UTF_8),
            ("Bearer " + token).getBytes(StandardCharsets.UTF_8));
  }

  private static CellarException refused() {
    return new CellarException(
        ProblemCode.NOT_SIGNED_IN,
        "metrics are for administrators, and for who sends their token (VINE_METRICS_TOKEN) as"
            + " Authorization: Bearer …");
  }
}
