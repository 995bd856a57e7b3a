package org.vinecellar.service.web;

import io.vertx.ext.web.Router;
import io.vertx.ext.web.RoutingContext;
import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.event.Observes;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.vinecellar.service.config.VineConfig;

/** Serves the console under every address of its own, and the jars of client and listener. */
@ApplicationScoped
public class ConsoleRoutes {
  private static final List<String> NOT_VIEWS =
      List.of("/api/", "/q/", "/health/", "/client/", "/assets/", "/index.html", "/favicon.svg");

  private final VineConfig config;

  ConsoleRoutes(VineConfig config) {
    this.config = config;
  }

  void register(@Observes Router router) {
    router
        .get("/client/vine.jar")
        .handler(context -> jar(context, config.client().jar(), "the client", "VINE_CLIENT_JAR"));
    router
        .get("/client/vine-junit-listener.jar")
        .handler(
            context ->
                jar(context, config.client().listener(), "the listener", "VINE_CLIENT_LISTENER"));
    router.get("/client/vine").handler(ConsoleRoutes::script);
    router.get("/*").order(-1000).handler(ConsoleRoutes::cache);
    router.get("/*").order(-900).handler(ConsoleRoutes::console);
  }

  /** Files with a hash in their name never change; all other pages are asked for again. */
  private static void cache(RoutingContext context) {
    if (context.normalizedPath().startsWith("/assets/")) {
      context.response().putHeader("Cache-Control", "public, max-age=31536000, immutable");
    } else if (!context.normalizedPath().startsWith("/api/")) {
      context.response().putHeader("Cache-Control", "no-cache");
    }
    context.next();
  }

  /** Addresses of the console's own views are all its one page; the rest goes its way. */
  private static void console(RoutingContext context) {
    String path = context.normalizedPath();
    boolean file =
        path.equals("/")
            || path.equals("/metrics")
            || NOT_VIEWS.stream().anyMatch(path::startsWith);
    if (file) {
      context.next();
    } else {
      context.reroute("/index.html");
    }
  }

  private static void jar(RoutingContext context, String file, String what, String setting) {
    Path jar = Path.of(file);
    if (Files.isReadable(jar)) {
      context
          .response()
          .putHeader("Content-Type", "application/java-archive")
          .sendFile(jar.toAbsolutePath().toString());
    } else {
      context
          .response()
          .setStatusCode(404)
          .putHeader("Content-Type", "text/plain; charset=utf-8")
          .end("This portal does not offer " + what + ": " + setting + " names no file.\n");
    }
  }

  private static void script(RoutingContext context) {
    context
        .response()
        .putHeader("Content-Type", "text/x-shellscript; charset=utf-8")
        .end(
            """
            #!/bin/sh
            # Runs the client of Vine Cellar from the jar beside this script.
            exec java -XX:+UseSerialGC -XX:TieredStopAtLevel=1 -Xshare:auto \\
              -jar "$(dirname "$0")/vine.jar" "$@"
            """);
  }
}
