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
import io.vertx.core.net.HostAndPort;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.URI;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
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
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.web.ByteRange;
import org.vinecellar.service.web.Downloads;

/**
 * Serves the files of bundles on a port of its own, and so on another origin than the portal's.
 * What is in them may run, but only in a sandbox, and may load from its own place alone. A bundle
 * that is asked for by a host name of its own ({@link BundleHosts}) has that origin, as on any
 * server; else it has none, and gets no cookies and no storage.
 */
@Singleton
public class BundleServer {
  private static final Logger LOG = Logger.getLogger(BundleServer.class);

  /**
   * By the end of the name; what a bundle's maker calls a file cannot do harm here. Pages look at
   * the types of what they load, so these are the ones that servers usually send.
   */
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
          Map.entry("otf", "font/otf"),
          Map.entry("avif", "image/avif"),
          Map.entry("bmp", "image/bmp"),
          Map.entry("mp3", "audio/mpeg"),
          Map.entry("wav", "audio/wav"),
          Map.entry("ogg", "audio/ogg"),
          Map.entry("pdf", "application/pdf"),
          Map.entry("gz", "application/gzip"),
          Map.entry("zip", "application/zip"),
          Map.entry("xhtml", "application/xhtml+xml"),
          Map.entry("webmanifest", "application/manifest+json"),
          Map.entry("log", "text/plain; charset=utf-8"),
          Map.entry("md", "text/markdown; charset=utf-8"),
          Map.entry("yaml", "application/yaml"),
          Map.entry("yml", "application/yaml"),
          Map.entry("mp4", "video/mp4"),
          Map.entry("webm", "video/webm"),
          Map.entry("wasm", "application/wasm"));

  private static final String SANDBOX =
      "sandbox allow-scripts allow-forms allow-popups allow-downloads";

  private static final String SOURCES =
      " default-src 'self' 'unsafe-inline' 'unsafe-eval' data: blob:; base-uri 'self';";

  private static final String WITH_ORIGIN =
      SANDBOX + " allow-same-origin;" + SOURCES + " form-action 'self'";

  private static final String WITHOUT_ORIGIN = SANDBOX + ";" + SOURCES + " form-action 'none'";

  /** What pages begin with. */
  private static final byte[] STORAGE = script("/bundles/storage.js");

  private static final int IDLE_SECONDS = 120;

  private final Vertx vertx;
  private final BundleStore store;
  private final Tickets tickets;
  private final Rooms rooms;
  private final Downloads downloads;
  private final BundleHosts hosts;
  private final VineConfig config;
  private final Lines lines;
  private volatile HttpServer server;

  BundleServer(
      Vertx vertx,
      BundleStore store,
      Tickets tickets,
      Rooms rooms,
      Downloads downloads,
      BundleHosts hosts,
      VineConfig config,
      Lines lines) {
    this.vertx = vertx;
    this.store = store;
    this.tickets = tickets;
    this.rooms = rooms;
    this.downloads = downloads;
    this.hosts = hosts;
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

  /** Where browsers find a bundle. */
  BundleHosts.Place placeOf(int projectId, long bundleId, HttpServerRequest request) {
    return hosts.of(projectId, bundleId, request, server.actualPort());
  }

  private static byte[] script(String resource) {
    try (InputStream in =
        Objects.requireNonNull(BundleServer.class.getResourceAsStream(resource))) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      return ("<script>" + text + "</script>").getBytes(StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
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
    HostAndPort host = request.authority();
    String path = request.path();
    String referer = request.getHeader("Referer");
    Rooms.then(
        rooms.run(Room.DOWNLOAD, () -> find(host, path, referer)),
        loop,
        (found, failure) -> answer(request, found, failure, place));
  }

  /**
   * What an address leads to: a file, another address, or the words that say why there is none.
   *
   * @param content with what pages begin with in it
   * @param own whether it has an origin of its own
   */
  private record Found(
      @Nullable Content content, String name, boolean own, int status, String text) {
    static Found none(int status, String text) {
      return new Found(null, "", false, status, text);
    }

    static Found elsewhere(String address) {
      return new Found(null, "", false, 307, address);
    }
  }

  private Found find(@Nullable HostAndPort host, @Nullable String raw, @Nullable String referer) {
    String path;
    try {
      path = URLDecoder.decode(raw == null ? "/" : raw.replace("+", "%2B"), StandardCharsets.UTF_8);
    } catch (IllegalArgumentException e) {
      return Found.none(400, "This is no address.");
    }
    int slash = path.indexOf('/', 1);
    Optional<Tickets.Ticket> ticket = ticketOf(path);
    if (ticket.isEmpty()) {
      return fromItsOwnPage(host, raw, referer);
    }
    boolean own = hosts.isOwn(ticket.get(), host);
    if (!own && hosts.isOfOne(host)) {
      return Found.none(404, "This is the place of another bundle. Open it from its run.");
    }
    String name = path.substring(slash + 1);
    int project = ticket.get().projectId();
    long bundle = ticket.get().bundleId();
    return store
        .file(project, bundle, name)
        .or(() -> store.file(project, bundle, index(name)))
        .map(file -> new Found(content(project, file), file.path(), own, 200, ""))
        .orElseGet(() -> none(name));
  }

  /** Browsers ask for an icon by themselves; that there is none is no error of the page. */
  private static Found none(String name) {
    return name.equals("favicon.ico")
        ? Found.none(204, "")
        : Found.none(404, "The bundle has no file of this name.");
  }

  private Optional<Tickets.Ticket> ticketOf(String path) {
    int slash = path.indexOf('/', 1);
    return slash < 0 || path.indexOf('\0') >= 0
        ? Optional.empty()
        : tickets.read(path.substring(1, slash));
  }

  /**
   * A page that names something from the root of its server gets it from the root of its bundle.
   * Which bundle that is, the page's own address tells, as the browser names it.
   */
  private Found fromItsOwnPage(
      @Nullable HostAndPort host, @Nullable String raw, @Nullable String referer) {
    Optional<String> page = Optional.ofNullable(referer).flatMap(BundleServer::pathOf);
    boolean own = page.flatMap(this::ticketOf).filter(of -> hosts.isOwn(of, host)).isPresent();
    if (!own || raw == null) {
      return Found.none(404, "This address is not valid any more. Open it from its run.");
    }
    String path = page.get();
    return Found.elsewhere(path.substring(0, path.indexOf('/', 1)) + raw);
  }

  private static Optional<String> pathOf(String url) {
    try {
      return Optional.ofNullable(URI.create(url).getPath());
    } catch (IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  private Content content(int project, BundleFile file) {
    Content whole = store.content(project, file);
    if (!isPage(file.path())) {
      return whole;
    }
    int start = HtmlStart.of(whole.read(0, HtmlStart.LOOKED_AT));
    return start < 0 ? whole : new Spliced(whole, start, STORAGE);
  }

  private static boolean isPage(String path) {
    return typeOf(path).startsWith("text/html");
  }

  private static String typeOf(String path) {
    String ending = path.substring(path.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    return TYPES.getOrDefault(ending, "application/octet-stream");
  }

  private void answer(
      HttpServerRequest request,
      @Nullable Found found,
      @Nullable Throwable failure,
      Crowd.Place place) {
    if (found != null && found.content() != null) {
      send(request, found, found.content(), place);
      return;
    }
    place.leave();
    if (found == null) {
      LOG.warnf("a file of a bundle could not be found: %s", failure);
      request.response().putHeader("Retry-After", "5");
      end(request.response(), 503, "The portal cannot answer now. Try again in a moment.");
    } else if (found.status() == 307) {
      String query = request.query() == null ? "" : "?" + request.query();
      request.response().putHeader("Location", found.text() + query);
      end(request.response(), 307, "It is in its bundle.");
    } else {
      end(request.response(), found.status(), found.text());
    }
  }

  /** A folder stands for the page in it. */
  private static String index(String name) {
    return name.isEmpty() || name.endsWith("/") ? name + "index.html" : name + "/index.html";
  }

  private void send(HttpServerRequest request, Found found, Content content, Crowd.Place place) {
    ByteRange wanted = ByteRange.of(request.getHeader("Range"), content.size());
    HttpServerResponse response = headed(request.response(), found.own());
    response
        .setStatusCode(wanted.status())
        .putHeader("Content-Type", typeOf(found.name()))
        .putHeader("Content-Length", Long.toString(wanted.count()))
        .putHeader("Accept-Ranges", "bytes")
        .putHeader("Cache-Control", "private, max-age=3600");
    if (wanted.partial()) {
      response.putHeader("Content-Range", wanted.header());
    }
    if (request.method() == HttpMethod.HEAD) {
      place.leave();
      response.end();
      return;
    }
    Rooms.then(
        downloads.send(request, content, wanted.from(), wanted.count(), place),
        (done, gone) -> LOG.debugf("a file of a bundle was sent: %s", gone));
  }

  private static HttpServerResponse headed(HttpServerResponse response, boolean own) {
    if (own) {
      return response
          .putHeader("Content-Security-Policy", WITH_ORIGIN)
          .putHeader("Cross-Origin-Resource-Policy", "same-origin")
          .putHeader("X-Content-Type-Options", "nosniff")
          .putHeader("Referrer-Policy", "same-origin");
    }
    // In a sandbox a page has no origin of its own, so that even its own data come from elsewhere.
    return response
        .putHeader("Access-Control-Allow-Origin", "*")
        .putHeader("Content-Security-Policy", WITHOUT_ORIGIN)
        .putHeader("X-Content-Type-Options", "nosniff")
        .putHeader("Referrer-Policy", "no-referrer");
  }

  private static void end(HttpServerResponse response, int status, String text) {
    headed(response, false).setStatusCode(status);
    if (text.isEmpty()) {
      response.end();
      return;
    }
    response.putHeader("Content-Type", "text/plain; charset=utf-8").end(text + "\n");
  }
}
