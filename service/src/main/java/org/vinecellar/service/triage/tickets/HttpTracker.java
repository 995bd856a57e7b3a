package org.vinecellar.service.triage.tickets;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.databind.node.TextNode;
import java.io.IOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.UnknownHostException;
import java.net.http.HttpClient;
import java.net.http.HttpConnectTimeoutException;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.channels.UnresolvedAddressException;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.Template;
import org.vinecellar.core.triage.tickets.Tracker;
import org.vinecellar.core.triage.tickets.TrackerException;
import org.vinecellar.core.triage.tickets.TrackerSettings;

/** A tracker over HTTP and JSON. It is believed nothing, and waited for not long. */
final class HttpTracker implements Tracker {
  private static final Duration PATIENCE = Duration.ofSeconds(8);
  private static final int MOST_BYTES = 4 << 20;
  private static final int LONGEST_KEY = 200;
  private static final int LONGEST_TEXT = 100_000;

  /** With an offset as ISO 8601 writes it, with or without a colon. */
  private static final DateTimeFormatter OFFSETS =
      new DateTimeFormatterBuilder()
          .append(DateTimeFormatter.ISO_LOCAL_DATE_TIME)
          .appendPattern("[XXX][XX][X]")
          .toFormatter(Locale.ROOT);

  private static final int NOT_FOUND = 404;
  private static final int GONE = 410;

  private final HttpClient client;
  private final ObjectMapper json;
  private final TrackerSettings settings;
  private final @Nullable String secret;

  HttpTracker(
      HttpClient client, ObjectMapper json, TrackerSettings settings, @Nullable String secret) {
    this.client = client;
    this.json = json;
    this.settings = settings;
    this.secret = secret;
  }

  @Override
  public List<Entry> find(String text, int most) {
    Map<String, String> values = Map.of("text", text, "most", String.valueOf(most));
    JsonNode list = answered(get(settings.find(), values)).at(settings.where().list());
    if (!list.isArray()) {
      throw nonsense("no list at " + named(settings.where().list()) + " of what it found");
    }
    List<Entry> found = new ArrayList<>();
    for (JsonNode node : list) {
      if (found.size() < most) {
        found.add(entry(node, null));
      }
    }
    return found;
  }

  @Override
  public Optional<Entry> read(String key) {
    HttpResponse<byte[]> response = get(settings.read(), Map.of("key", key));
    return response.statusCode() == NOT_FOUND || response.statusCode() == GONE
        ? Optional.empty()
        : Optional.of(entry(answered(response).at(settings.where().entry()), key));
  }

  @Override
  public Entry create(String title, String text) {
    JsonNode answer =
        answered(
            post(
                settings.create(),
                Map.of(),
                settings.createBody(),
                Map.of("title", title, "text", text)));
    String key = text(answer.at(settings.where().entry()).at(settings.where().key()));
    if (key == null) {
      throw nonsense("no key at " + named(settings.where().key()) + " of what it made");
    }
    // Many tell nothing but the key of what they made.
    return read(key).orElseThrow(() -> nonsense("does not know " + key + ", which it just made"));
  }

  @Override
  public void comment(String key, String text) {
    Map<String, String> values = Map.of("key", key, "text", text);
    checked(post(settings.comment(), Map.of("key", key), settings.commentBody(), values));
  }

  /**
   * @param asked the key by which it was asked for, which it keeps; null to take what it says
   */
  private Entry entry(JsonNode node, @Nullable String asked) {
    TrackerSettings.Where where = settings.where();
    String key = text(node.at(where.key()));
    String title = text(node.at(where.title()));
    String state = text(node.at(where.state()));
    if (key == null || title == null || state == null) {
      throw nonsense(
          "an entry without "
              + (key == null
                  ? "a key at " + named(where.key())
                  : title == null
                      ? "a title at " + named(where.title())
                      : "a state at " + named(where.state())));
    }
    if (key.length() > LONGEST_KEY) {
      throw nonsense("a key of " + key.length() + " characters");
    }
    String text = where.text().isEmpty() ? null : text(node.at(where.text()));
    String known = asked == null ? key : asked;
    return new Entry(
        known,
        cut(title, LONGEST_TEXT),
        text == null ? "" : cut(text, LONGEST_TEXT),
        cut(state, LONGEST_KEY),
        settings.isOpen(state),
        settings.isOpen(state)
            ? null
            : time(where.closedAt().isEmpty() ? null : text(node.at(where.closedAt()))),
        settings.page().isEmpty() ? null : Template.url(settings.page(), Map.of("key", known)));
  }

  private static @Nullable String text(JsonNode node) {
    return node.isValueNode() && !node.isNull() && !node.asText().isBlank()
        ? node.asText().replace("\0", "").strip()
        : null;
  }

  /** What is no time is none. */
  private static @Nullable Instant time(@Nullable String text) {
    if (text == null) {
      return null;
    }
    try {
      return OffsetDateTime.parse(text, OFFSETS).toInstant();
    } catch (DateTimeParseException e) {
      return null;
    }
  }

  private static String cut(String text, int most) {
    return text.length() > most ? text.substring(0, most) : text;
  }

  private static String named(String pointer) {
    return pointer.isEmpty() ? "the top" : pointer;
  }

  private HttpResponse<byte[]> get(String template, Map<String, String> values) {
    return send(request(template, values).GET().build());
  }

  private HttpResponse<byte[]> post(
      String template, Map<String, String> values, String body, Map<String, String> inBody) {
    try {
      byte[] bytes = json.writeValueAsBytes(filled(json.readTree(body), inBody));
      return send(
          request(template, values)
              .header("Content-Type", "application/json")
              .POST(HttpRequest.BodyPublishers.ofByteArray(bytes))
              .build());
    } catch (JsonProcessingException e) {
      throw new TrackerException("the body for it is no JSON: " + e.getOriginalMessage(), false, e);
    }
  }

  /** Values are put into texts of a tree: nothing in them can be anything but text. */
  private static JsonNode filled(JsonNode template, Map<String, String> values) {
    if (template.isTextual()) {
      return TextNode.valueOf(Template.filled(template.asText(), values));
    }
    if (template.isObject()) {
      ObjectNode filled = ((ObjectNode) template).objectNode();
      template
          .fields()
          .forEachRemaining(one -> filled.set(one.getKey(), filled(one.getValue(), values)));
      return filled;
    }
    if (template.isArray()) {
      var filled = ((com.fasterxml.jackson.databind.node.ArrayNode) template).arrayNode();
      template.forEach(one -> filled.add(filled(one, values)));
      return filled;
    }
    return template;
  }

  private HttpRequest.Builder request(String template, Map<String, String> values) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(Template.url(template, values)))
            .timeout(PATIENCE)
            .header("Accept", "application/json")
            .header("User-Agent", "vine-cellar");
    if (!settings.header().isEmpty()) {
      int colon = settings.header().indexOf(':');
      request.header(
          settings.header().substring(0, colon),
          Template.filled(
                  settings.header().substring(colon + 1),
                  Map.of("secret", secret == null ? "" : secret))
              .strip());
    }
    return request;
  }

  /** What a redirect leads to was allowed by nobody. */
  private HttpResponse<byte[]> send(HttpRequest request) {
    CompletableFuture<HttpResponse<byte[]>> answer =
        client.sendAsync(request, info -> new LimitedBody(MOST_BYTES));
    try {
      return answer.get(PATIENCE.toMillis(), TimeUnit.MILLISECONDS);
    } catch (TimeoutException e) {
      answer.cancel(true);
      throw new TrackerException(
          settings.name() + " did not answer within " + PATIENCE.toSeconds() + " s", true, e);
    } catch (ExecutionException e) {
      throw unreached(e.getCause() == null ? e : e.getCause());
    } catch (InterruptedException e) {
      answer.cancel(true);
      Thread.currentThread().interrupt();
      throw new TrackerException("the portal is being stopped", true, e);
    }
  }

  private TrackerException unreached(Throwable why) {
    boolean never =
        why instanceof ConnectException
            || why instanceof HttpConnectTimeoutException
            || why instanceof UnknownHostException
            || why.getCause() instanceof UnresolvedAddressException;
    if (why instanceof LimitedBody.TooLongException) {
      return nonsense("more than " + (MOST_BYTES >> 20) + " MiB");
    }
    String message = why.getMessage();
    return new TrackerException(
        settings.name()
            + (never ? " cannot be reached" : " broke off its answer")
            + (message == null ? "" : ": " + cut(message, LONGEST_KEY)),
        !never,
        why);
  }

  private JsonNode answered(HttpResponse<byte[]> response) {
    byte[] body = checked(response);
    try {
      JsonNode tree = json.readTree(body);
      if (tree == null || tree.isMissingNode()) {
        throw nonsense("nothing");
      }
      return tree;
    } catch (IOException e) {
      throw nonsense("what is no JSON");
    }
  }

  private byte[] checked(HttpResponse<byte[]> response) {
    int status = response.statusCode();
    if (status / 100 == 2) {
      return response.body();
    }
    String why =
        switch (status / 100) {
          case 3 -> "leads elsewhere (" + status + "), where nobody follows; say that URL";
          case 5 -> "has troubles of its own (" + status + ")";
          default ->
              status == 401 || status == 403
                  ? "does not let us in (" + status + "); look at the header and its secret"
                  : status == 429
                      ? "wants to be asked less (429)"
                      : "refuses what it is asked (" + status + ")";
        };
    // Who wants to be asked later has done nothing; who refuses would refuse again.
    throw new TrackerException(settings.name() + " " + why, status != 429 && status != 503, null);
  }

  private TrackerException nonsense(String what) {
    return new TrackerException(
        settings.name() + " answers what makes no sense: " + what, true, null);
  }
}
