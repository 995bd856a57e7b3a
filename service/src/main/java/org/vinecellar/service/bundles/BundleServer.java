package org.vinecellar.service.bundles;

import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import io.vertx.core.Vertx;
import io.vertx.core.buffer.Buffer;
import io.vertx.core.http.HttpMethod;
import io.vertx.core.http.HttpServer;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.http.HttpServerResponse;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.eclipse.microprofile.config.inject.ConfigProperty;
import org.jboss.logging.Logger;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.bundles.BundleStore.BundleFile;
import org.vinecellar.service.config.VineConfig;

/**
 * Serves the files of bundles on a port of its own, and so on another origin than the portal's.
 * What is in them may run, but only in a sandbox: it has no origin, gets no cookies, and may load
 * from this port alone.
 */
@Singleton
public class BundleServer {
  private static final Logger LOG = Logger.getLogger(BundleServer.class);

  /** By the end of the name; what a bundle's maker calls a file cannot do harm here. */
  private static final Map<String, String> TYPES =
      Map.ofEntries(
          Map.entry("html", "text/html; charset=utf-8"),
          Map.entry("htm", "text/html; charset=utf-8"),
          Map.entry("css", "text/css; charset=utf-8"),
          Map.entry("js", "text/javascript; charset=utf-8"),
          Map.entry("mjs", "text/javascript; charset=utf-8"),
          Map.entry("json", "application/json"),
          Map.entry("map", "application/json"),
          Map.entry("xml", "application/xml"),
          Map.entry("txt", "text/plain; charset=utf-8"),
          Map.entry("csv", "text/csv; charset=utf-8"),
          Map.entry("svg", "image/svg+xml"),
          Map.entry("png", "image/png"),
          Map.entry("jpg", "image/jpeg"),
          Map.entry("jpeg", "image/jpeg"),
          Map.entry("gif", "image/gif"),
          Map.entry("webp", "image/webp"),
          Map.entry("ico", "image/x-icon"),
          Map.entry("woff", "font/woff"),
          Map.entry("woff2", "font/woff2"),
          Map.entry("ttf", "font/ttf"),
          Map.entry("mp4", "video/mp4"),
          Map.entry("webm", "video/webm"),
          Map.entry("wasm", "application/wasm"));

  private static final String POLICY =
      "sandbox allow-scripts allow-forms allow-popups allow-downloads;"
          + " default-src 'self' 'unsafe-inline' 'unsafe-eval' data: blob:;"
          + " form-action 'none'; base-uri 'self'";

  private final Vertx vertx;
  private final BundleStore store;
  private final Tickets tickets;
  private final VineConfig config;
  private final String host;
  private volatile HttpServer server;

  BundleServer(
      Vertx vertx,
      BundleStore store,
      Tickets tickets,
      VineConfig config,
      @ConfigProperty(name = "quarkus.http.host") String host) {
    this.vertx = vertx;
    this.store = store;
    this.tickets = tickets;
    this.config = config;
    this.host = host;
    this.server = vertx.createHttpServer();
  }

  void start(@Observes StartupEvent event) throws Exception {
    server =
        vertx
            .createHttpServer()
            .requestHandler(this::handle)
            .listen(config.bundle().port(), host)
            .toCompletionStage()
            .toCompletableFuture()
            .get(30, TimeUnit.SECONDS);
    LOG.infof("bundles are served on port %d", server.actualPort());
  }

  void stop(@Observes ShutdownEvent event) {
    server.close();
  }

  /** Where browsers find it. */
  String baseFor(String portalScheme, String portalHost) {
    return config
        .bundle()
        .url()
        .map(url -> url.replaceAll("/+$", ""))
        .orElseGet(() -> portalScheme + "://" + portalHost + ":" + server.actualPort());
  }

  private void handle(HttpServerRequest request) {
    if (request.method() != HttpMethod.GET && request.method() != HttpMethod.HEAD) {
      end(request.response(), 405, "Only reading is possible here.");
      return;
    }
    vertx
        .executeBlocking(
            () -> {
              answer(request);
              return null;
            },
            false)
        .onFailure(
            e -> {
              LOG.warnf("a file of a bundle could not be sent: %s", e);
              request.connection().close();
            });
  }

  private void answer(HttpServerRequest request) {
    String path;
    try {
      path = URLDecoder.decode(request.path().replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      end(request.response(), 400, "This is no address.");
      return;
    }
    int slash = path.indexOf('/', 1);
    Optional<Tickets.Ticket> ticket =
        slash < 0 ? Optional.empty() : tickets.read(path.substring(1, slash));
    if (ticket.isEmpty()) {
      end(request.response(), 404, "This address is not valid any more. Open it from its run.");
      return;
    }
    String name = path.substring(slash + 1);
    int project = ticket.get().projectId();
    long bundle = ticket.get().bundleId();
    Optional<BundleFile> file =
        store.file(project, bundle, name).or(() -> store.file(project, bundle, index(name)));
    if (file.isEmpty()) {
      end(request.response(), 404, "The bundle has no file of this name.");
      return;
    }
    send(request, project, file.get());
  }

  /** A folder stands for the page in it. */
  private static String index(String name) {
    return name.isEmpty() || name.endsWith("/") ? name + "index.html" : name + "/index.html";
  }

  private void send(HttpServerRequest request, int project, BundleFile file) {
    String ending =
        file.path().substring(file.path().lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    HttpServerResponse response = headed(request.response());
    response.putHeader("Content-Type", TYPES.getOrDefault(ending, "application/octet-stream"));
    response.putHeader("Content-Length", Long.toString(file.bytes()));
    response.putHeader("Cache-Control", "private, max-age=3600");
    if (request.method() == HttpMethod.GET) {
      store.content(
          project,
          file,
          bytes ->
              response
                  .write(Buffer.buffer(bytes))
                  .toCompletionStage()
                  .toCompletableFuture()
                  .join());
    }
    response.end();
  }

  private static HttpServerResponse headed(HttpServerResponse response) {
    // In a sandbox a page has no origin of its own, so that even its own data come from elsewhere.
    return response
        .putHeader("Access-Control-Allow-Origin", "*")
        .putHeader("Content-Security-Policy", POLICY)
        .putHeader("X-Content-Type-Options", "nosniff")
        .putHeader("Referrer-Policy", "no-referrer");
  }

  private static void end(HttpServerResponse response, int status, String text) {
    headed(response)
        .setStatusCode(status)
        .putHeader("Content-Type", "text/plain; charset=utf-8")
        .end(text + "\n");
  }
}
