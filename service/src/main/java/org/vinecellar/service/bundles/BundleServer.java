package org.vinecellar.service.bundles;

import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.http.HttpMethod;
import io.vertx.core.http.HttpServer;
import io.vertx.core.http.HttpServerOptions;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.http.HttpServerResponse;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.bundles.BundleStore;
import org.vinecellar.core.bundles.BundleStore.BundleFile;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Lines;
import org.vinecellar.service.guard.Listening;
import org.vinecellar.service.guard.PublicAddress;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.web.Downloads;

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

  private static final int IDLE_SECONDS = 120;

  private final Vertx vertx;
  private final BundleStore store;
  private final Tickets tickets;
  private final Rooms rooms;
  private final Downloads downloads;
  private final PublicAddress address;
  private final VineConfig config;
  private final Lines lines;
  private volatile HttpServer server;

  BundleServer(
      Vertx vertx,
      BundleStore store,
      Tickets tickets,
      Rooms rooms,
      Downloads downloads,
      PublicAddress address,
      VineConfig config,
      Lines lines) {
    this.vertx = vertx;
    this.store = store;
    this.tickets = tickets;
    this.rooms = rooms;
    this.downloads = downloads;
    this.address = address;
    this.config = config;
    this.lines = lines;
    this.server = vertx.createHttpServer();
  }

  void start(@Observes StartupEvent event) {
    server =
        Listening.await(
            vertx
                .createHttpServer(
                    new HttpServerOptions()
                        .setIdleTimeout(IDLE_SECONDS)
                        // Else nobody is told of a connection before its first bytes have come.
                        .setHttp2ClearTextEnabled(false))
                .connectionHandler(lines::opened)
                .requestHandler(this::handle)
                .listen(config.bundle().port(), config.host()),
            config.host(),
            config.bundle().port(),
            "VINE_BUNDLE_PORT");
    LOG.infof("bundles are served on port %d", server.actualPort());
  }

  void stop(@Observes ShutdownEvent event) {
    server.close();
  }

  /** Where browsers find it. */
  String baseFor(HttpServerRequest request) {
    return config
        .bundle()
        .url()
        .map(url -> url.replaceAll("/+$", ""))
        .orElseGet(() -> address.base(request, server.actualPort()));
  }

  private void handle(HttpServerRequest request) {
    lines.asked(request);
    if (request.method() != HttpMethod.GET && request.method() != HttpMethod.HEAD) {
      end(request.response(), 405, "Only reading is possible here.");
      return;
    }
    Crowd.Place place;
    try {
      place = downloads.enter(request);
    } catch (TryLaterException e) {
      request.response().putHeader("Retry-After", Long.toString(e.waitSeconds()));
      end(request.response(), 503, "Too many read here at once. Try again in a moment.");
      return;
    }
    Context loop = Vertx.currentContext();
    Rooms.then(
        rooms.run(Room.DOWNLOAD, () -> find(request.path())),
        loop,
        (found, failure) -> answer(request, found, failure, place));
  }

  /** What an address leads to: a file, or the words that say why there is none. */
  private record Found(
      @Nullable BundleFile file, @Nullable Content content, int status, String text) {
    static Found none(int status, String text) {
      return new Found(null, null, status, text);
    }
  }

  private Found find(@Nullable String raw) {
    String path;
    try {
      path = URLDecoder.decode(raw == null ? "/" : raw.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return Found.none(400, "This is no address.");
    }
    int slash = path.indexOf('/', 1);
    Optional<Tickets.Ticket> ticket =
        slash < 0 || path.indexOf('\0') >= 0
            ? Optional.empty()
            : tickets.read(path.substring(1, slash));
    if (ticket.isEmpty()) {
      return Found.none(404, "This address is not valid any more. Open it from its run.");
    }
    String name = path.substring(slash + 1);
    int project = ticket.get().projectId();
    long bundle = ticket.get().bundleId();
    return store
        .file(project, bundle, name)
        .or(() -> store.file(project, bundle, index(name)))
        .map(file -> new Found(file, store.content(project, file), 200, ""))
        .orElseGet(() -> Found.none(404, "The bundle has no file of this name."));
  }

  private void answer(
      HttpServerRequest request,
      @Nullable Found found,
      @Nullable Throwable failure,
      Crowd.Place place) {
    BundleFile file = found == null ? null : found.file();
    Content content = found == null ? null : found.content();
    if (file == null || content == null) {
      place.leave();
      if (failure != null) {
        LOG.warnf("a file of a bundle could not be found: %s", failure);
        request.response().putHeader("Retry-After", "5");
      }
      end(
          request.response(),
          found == null ? 503 : found.status(),
          found == null ? "The portal cannot answer now. Try again in a moment." : found.text());
      return;
    }
    send(request, file, content, place);
  }

  /** A folder stands for the page in it. */
  private static String index(String name) {
    return name.isEmpty() || name.endsWith("/") ? name + "index.html" : name + "/index.html";
  }

  private void send(
      HttpServerRequest request, BundleFile file, Content content, Crowd.Place place) {
    String ending =
        file.path().substring(file.path().lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    HttpServerResponse response = headed(request.response());
    response.putHeader("Content-Type", TYPES.getOrDefault(ending, "application/octet-stream"));
    response.putHeader("Content-Length", Long.toString(file.bytes()));
    response.putHeader("Cache-Control", "private, max-age=3600");
    if (request.method() == HttpMethod.HEAD) {
      place.leave();
      response.end();
      return;
    }
    Rooms.then(
        downloads.send(request, content, 0, file.bytes(), place),
        (done, gone) -> LOG.debugf("a file of a bundle was sent: %s", gone));
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
