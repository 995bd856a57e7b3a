package org.vinecellar.service.operate;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.micrometer.core.instrument.MeterRegistry;
import io.vertx.ext.web.Router;
import io.vertx.ext.web.RoutingContext;
import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.event.Observes;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Whether the service lives and is ready, in the form of MicroProfile Health. Answered on the event
 * loop from what the {@link Watchman} saw, so that it never waits.
 */
@ApplicationScoped
public class HealthRoutes {
  private static final int FIRST = -3000;

  private final Watchman watchman;
  private final ObjectMapper json;

  HealthRoutes(Watchman watchman, ObjectMapper json, MeterRegistry meters) {
    this.watchman = watchman;
    this.json = json;
    meters.gauge("vine.disk.full", watchman, w -> w.seen().diskFull() ? 1 : 0);
    meters.gauge("vine.database.up", watchman, w -> w.seen().database() ? 1 : 0);
  }

  void register(@Observes Router router) {
    router.get("/health/live").order(FIRST).handler(this::live);
    router.get("/health/ready").order(FIRST).handler(this::ready);
    router.get("/health").order(FIRST).handler(this::ready);
  }

  private void live(RoutingContext context) {
    send(context, List.of());
  }

  /** A part of the service. */
  private record Check(String name, String status, Map<String, Object> data) {
    static Check of(String name, boolean up, Map<String, Object> data) {
      return new Check(name, up ? "UP" : "DOWN", data);
    }
  }

  private void ready(RoutingContext context) {
    Watchman.Seen seen = watchman.seen();
    Map<String, Object> database = new LinkedHashMap<>();
    if (!seen.database()) {
      database.put("says", seen.databaseSays());
    }
    Map<String, Object> disk = new LinkedHashMap<>();
    seen.free().forEach((what, bytes) -> disk.put(what + "FreeMegabytes", bytes >> 20));
    if (seen.diskFull()) {
      disk.put("says", "full up to its reserve: uploads are refused, reading goes on");
    }
    // Who cannot write any more can still be read: the disk alone does not make it not ready.
    disk.put("uploads", seen.diskFull() ? "refused" : "taken in");
    send(
        context,
        List.of(
            Check.of("database", seen.database(), database),
            new Check("disk", "UP", disk),
            Check.of("watchman", !watchman.isStale(), Map.of("lastLook", seen.at().toString()))));
  }

  private void send(RoutingContext context, List<Check> checks) {
    boolean up = checks.stream().allMatch(check -> check.status().equals("UP"));
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("status", up ? "UP" : "DOWN");
    body.put("checks", checks);
    try {
      context
          .response()
          .setStatusCode(up ? 200 : 503)
          .putHeader("Content-Type", "application/json")
          .putHeader("Cache-Control", "no-store")
          .end(json.writeValueAsString(body));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("plain values always have a JSON form", e);
    }
  }
}
