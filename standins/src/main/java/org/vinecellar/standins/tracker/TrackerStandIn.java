package org.vinecellar.standins.tracker;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * A tracker that is none: {@code TrackerStandIn PORT [FILE]}. Programs speak JSON to it under
 * {@code /api}, with the secret in a header; people look at its pages. Its mood makes it behave
 * badly.
 */
public final class TrackerStandIn implements AutoCloseable {
  /** What programs have to know. */
  public static final String SECRET = "quay-4711";

  private static final ObjectMapper JSON = new ObjectMapper();
  private static final int MOST_BYTES = 1 << 20;

  private final HttpServer server;
  private final ExecutorService threads = Executors.newCachedThreadPool();
  private final CountDownLatch closing = new CountDownLatch(1);
  private final LogBook book;
  private volatile Mood mood = Mood.WELL;
  private final List<String> calls = new ArrayList<>();

  private TrackerStandIn(int port, @Nullable Path file) throws IOException {
    book = new LogBook(file, () -> Instant.now().truncatedTo(ChronoUnit.SECONDS));
    server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 0);
    server.setExecutor(threads);
    server.createContext("/api/", exchange -> careful(exchange, this::api));
    server.createContext("/", exchange -> careful(exchange, this::page));
    server.start();
  }

  /** On a port of the loopback address. */
  public static void main(String[] args) throws IOException {
    TrackerStandIn standIn =
        new TrackerStandIn(Integer.parseInt(args[0]), args.length > 1 ? Path.of(args[1]) : null);
    System.out.println("the harbour log is at " + standIn.url());
  }

  /** For tests: on any free port, in memory. */
  public static TrackerStandIn start() throws IOException {
    return new TrackerStandIn(0, null);
  }

  public String url() {
    return "http://127.0.0.1:" + server.getAddress().getPort();
  }

  /** How it behaves from now on. */
  public void mood(Mood next) {
    mood = next;
  }

  /** Makes an entry, as somebody on its pages. */
  public String make(String title, String text) {
    return book.make(title, text).key();
  }

  /** As somebody on its pages. */
  public void stand(String key, String state) {
    book.stand(key, state, null);
  }

  /** Takes it away without a trace. */
  public void lose(String key) {
    book.lose(key);
  }

  public List<LogEntry> entries() {
    return book.all();
  }

  /** What programs asked for so far, as {@code GET /api/entries/LOG-1}. */
  public List<String> calls() {
    synchronized (calls) {
      return List.copyOf(calls);
    }
  }

  private interface Handler {
    void handle(HttpExchange exchange) throws IOException;
  }

  private static void careful(HttpExchange exchange, Handler handler) throws IOException {
    try (exchange) {
      handler.handle(exchange);
    } catch (RuntimeException e) {
      answer(exchange, 400, "text/plain", String.valueOf(e.getMessage()));
    }
  }

  private void api(HttpExchange exchange) throws IOException {
    Mood now = mood;
    String path = exchange.getRequestURI().getPath();
    synchronized (calls) {
      calls.add(exchange.getRequestMethod() + " " + path);
    }
    if (!("Bearer " + SECRET).equals(exchange.getRequestHeaders().getFirst("Authorization"))) {
      json(exchange, 401, Map.of("error", "who are you?"));
      return;
    }
    if (now == Mood.CLOSED_BOOK && exchange.getRequestMethod().equals("POST")) {
      json(exchange, 403, Map.of("error", "not you"));
      return;
    }
    if (now != Mood.WELL && now != Mood.FORGETFUL && now != Mood.CLOSED_BOOK) {
      behave(exchange, now);
      return;
    }
    Answer answer = answered(exchange, path);
    if (now == Mood.FORGETFUL) {
      throw new IOException("the answer is lost");
    }
    json(exchange, answer.status, answer.body);
  }

  private record Answer(int status, Object body) {}

  private Answer answered(HttpExchange exchange, String path) throws IOException {
    boolean isPost = exchange.getRequestMethod().equals("POST");
    if (path.equals("/api/entries")) {
      if (isPost) {
        JsonNode body = JSON.readTree(read(exchange));
        LogEntry made = book.make(body.path("title").asText(), body.path("text").asText());
        // Where an entry comes from elsewhere, when it was made and closed may be told.
        if (body.hasNonNull("state")) {
          book.stand(made.key(), body.path("state").asText(), body.path("closedAt").asText());
        }
        return new Answer(201, Map.of("entry", Map.of("key", made.key())));
      }
      Map<String, String> query = fields(exchange.getRequestURI().getRawQuery());
      int most = Integer.parseInt(query.getOrDefault("most", "20"));
      return new Answer(200, Map.of("entries", book.find(query.getOrDefault("words", ""), most)));
    }
    String[] steps = path.split("/");
    String key = steps.length > 3 ? steps[3] : "";
    if (steps.length == 5 && steps[4].equals("said") && isPost) {
      boolean there = book.say(key, JSON.readTree(read(exchange)).path("text").asText());
      return there ? new Answer(201, Map.of()) : new Answer(404, Map.of("error", "no " + key));
    }
    return book.read(key)
        .map(entry -> new Answer(200, Map.of("entry", entry)))
        .orElse(new Answer(404, Map.of("error", "no " + key)));
  }

  private void behave(HttpExchange exchange, Mood how) throws IOException {
    switch (how) {
      case HANGING -> {
        try {
          boolean unused = closing.await(10, TimeUnit.MINUTES);
        } catch (InterruptedException e) {
          Thread.currentThread().interrupt();
        }
      }
      case DOWN -> json(exchange, 503, Map.of("error", "tired"));
      case BABBLING -> answer(exchange, 200, "text/html", "<html>Please sign in</html>");
      case RAMBLING -> json(exchange, 200, List.of(Map.of("tide", List.of(1, 2, 3)), 7));
      case ELSEWHERE -> {
        exchange.getResponseHeaders().set("Location", "http://localhost:1/");
        json(exchange, 302, Map.of());
      }
      default -> {
        exchange.sendResponseHeaders(200, 0);
        byte[] some = "{\"entries\": [\"".repeat(1_000).getBytes(StandardCharsets.UTF_8);
        try (OutputStream out = exchange.getResponseBody()) {
          while (closing.getCount() > 0) {
            out.write(some);
          }
        }
      }
    }
  }

  private void page(HttpExchange exchange) throws IOException {
    String[] steps = exchange.getRequestURI().getPath().split("/");
    String what = steps.length > 1 ? steps[1] : "";
    if (exchange.getRequestMethod().equals("POST")) {
      Map<String, String> form = fields(new String(read(exchange), StandardCharsets.UTF_8));
      String key = form.getOrDefault("key", "");
      switch (what) {
        case "stand" -> book.stand(key, form.getOrDefault("state", ""), null);
        case "say" -> book.say(key, form.getOrDefault("text", ""));
        case "lose" -> book.lose(key);
        case "make" -> key = book.make(form.getOrDefault("title", ""), "").key();
        case "mood" -> mood = Mood.named(form.getOrDefault("mood", "")).orElse(mood);
        default -> key = "";
      }
      boolean toEntry = !key.isEmpty() && !what.equals("lose");
      exchange.getResponseHeaders().set("Location", toEntry ? "/look/" + key : "/");
      exchange.sendResponseHeaders(303, -1);
      return;
    }
    if (what.equals("look") && steps.length > 2) {
      LogEntry entry = book.read(steps[2]).orElse(null);
      answer(
          exchange,
          entry == null ? 404 : 200,
          "text/html; charset=utf-8",
          LogPages.entry(entry, steps[2]));
      return;
    }
    Map<String, String> query = fields(exchange.getRequestURI().getRawQuery());
    String words = query.getOrDefault("words", "");
    answer(
        exchange,
        200,
        "text/html; charset=utf-8",
        LogPages.list(book.find(words, 500), words, mood));
  }

  private static byte[] read(HttpExchange exchange) throws IOException {
    return exchange.getRequestBody().readNBytes(MOST_BYTES);
  }

  private static Map<String, String> fields(@Nullable String raw) {
    Map<String, String> fields = new HashMap<>();
    for (String one : raw == null ? new String[0] : raw.split("&")) {
      int is = one.indexOf('=');
      if (is > 0) {
        fields.put(
            URLDecoder.decode(one.substring(0, is), StandardCharsets.UTF_8),
            URLDecoder.decode(one.substring(is + 1), StandardCharsets.UTF_8));
      }
    }
    return fields;
  }

  private static void json(HttpExchange exchange, int status, Object body) throws IOException {
    answer(exchange, status, "application/json", JSON.writeValueAsString(body));
  }

  private static void answer(HttpExchange exchange, int status, String type, String body)
      throws IOException {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    exchange.getResponseHeaders().set("Content-Type", type);
    exchange.sendResponseHeaders(status, bytes.length);
    exchange.getResponseBody().write(bytes);
  }

  @Override
  public void close() {
    closing.countDown();
    server.stop(0);
    threads.shutdownNow();
  }
}
