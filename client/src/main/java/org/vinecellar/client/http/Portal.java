package org.vinecellar.client.http;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.io.IOException;
import java.net.ConnectException;
import java.net.URI;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpTimeoutException;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.net.ssl.SSLException;
import org.jspecify.annotations.Nullable;

/** The portal's API, as much of it as the client needs. */
public final class Portal {
  private static final Duration CONNECT = Duration.ofSeconds(10);
  private static final Duration ANSWER = Duration.ofSeconds(60);
  private static final Duration FILE = Duration.ofMinutes(5);
  private static final Duration UPLOAD_ANSWER = Duration.ofMinutes(30);
  private static final int NO_CONTENT = 204;
  private static final String PROBLEM = "urn:vine-cellar:problem:";

  private static final Pattern NEXT = Pattern.compile("[?&]cursor=([^&>]+)[^>]*>; rel=\"next\"");

  private final String base;
  private final String token;
  private final String project;
  private final HttpClient http;

  /**
   * @param base address of the portal, http or https
   * @param project key of the token's project
   */
  public Portal(URI base, String token, String project) {
    String text = base.toString();
    this.base = text.endsWith("/") ? text.substring(0, text.length() - 1) : text;
    this.token = token;
    this.project = project;
    HttpClient.Builder client =
        HttpClient.newBuilder()
            .version(HttpClient.Version.HTTP_1_1)
            .connectTimeout(CONNECT)
            .followRedirects(HttpClient.Redirect.NEVER);
    this.http =
        ("http".equalsIgnoreCase(base.getScheme()) ? client.sslContext(new NoTls()) : client)
            .build();
  }

  /**
   * Reads something of the project.
   *
   * @param path below the project, e.g. {@code runs}
   * @throws PortalException for every answer but 200
   */
  public JsonNode get(String path, Map<String, String> query) {
    return answer(request(path + words(query)).timeout(ANSWER).GET().build());
  }

  /**
   * Reads a list page by page.
   *
   * @throws PortalException for every answer but 200
   */
  public void pages(String path, Map<String, String> query, Consumer<JsonNode> each) {
    String next = path + words(query);
    while (next != null) {
      HttpResponse<String> response = exchange(request(next).timeout(ANSWER).GET().build());
      each.accept(body(response));
      String cursor =
          response
              .headers()
              .firstValue("Link")
              .map(NEXT::matcher)
              .filter(Matcher::find)
              .map(link -> link.group(1))
              .orElse(null);
      // What other hosts an answer may name is no matter: only its cursor is taken.
      Map<String, String> more = new LinkedHashMap<>(query);
      if (cursor != null) {
        more.put("cursor", URLDecoder.decode(cursor, StandardCharsets.UTF_8));
      }
      next = cursor == null ? null : path + words(more);
    }
  }

  private static String words(Map<String, String> query) {
    String words =
        query.entrySet().stream()
            .map(e -> encoded(e.getKey()) + "=" + encoded(e.getValue()))
            .collect(Collectors.joining("&"));
    return words.isEmpty() ? "" : "?" + words;
  }

  /** An answer with its entity tag; empty when it has none. */
  public record Tagged(JsonNode body, String tag) {}

  /**
   * Reads something that is going to be changed.
   *
   * @throws PortalException for every answer but 200
   */
  public Tagged tagged(String path) {
    HttpResponse<String> response = exchange(request(path).timeout(ANSWER).GET().build());
    return new Tagged(body(response), response.headers().firstValue("ETag").orElse(""));
  }

  /**
   * Changes something.
   *
   * @param tag of the version that is changed; null where none is asked for
   * @return what it is now; an empty object when the portal does not tell
   * @throws PortalException when it was not changed
   */
  public JsonNode put(String path, @Nullable String tag, JsonNode body) {
    HttpRequest.Builder request =
        request(path)
            .timeout(ANSWER)
            .header("Content-Type", "application/json")
            .PUT(HttpRequest.BodyPublishers.ofString(body.toString(), StandardCharsets.UTF_8));
    if (tag != null) {
      request.header("If-Match", tag);
    }
    HttpResponse<String> response = exchange(request.build());
    return response.statusCode() == NO_CONTENT
        ? JsonNodeFactory.instance.objectNode()
        : body(response);
  }

  /**
   * Takes something away.
   *
   * @param path below the project
   * @throws PortalException when it is still there
   */
  public void delete(String path, Map<String, String> query) {
    HttpResponse<String> response =
        exchange(request(path + words(query)).timeout(ANSWER).DELETE().build());
    if (response.statusCode() != NO_CONTENT) {
      JsonNode unused = body(response);
    }
  }

  /** Its address, without a slash at the end. */
  public String base() {
    return base;
  }

  /** Key of the token's project. */
  public String project() {
    return project;
  }

  /**
   * Asks for something to be done.
   *
   * @param path below the project
   * @throws PortalException when it was not done
   */
  public JsonNode post(String path) {
    return post(path, Map.of());
  }

  /**
   * The same with a query.
   *
   * @throws PortalException when it was not done
   */
  public JsonNode post(String path, Map<String, String> query) {
    return answer(
        request(path + words(query))
            .timeout(ANSWER)
            .POST(HttpRequest.BodyPublishers.noBody())
            .build());
  }

  /**
   * Sends JSON.
   *
   * @param path below the project
   * @throws PortalException when it was not taken
   */
  public JsonNode post(String path, JsonNode body) {
    return post(path, Map.of(), body);
  }

  /**
   * The same with a query.
   *
   * @throws PortalException when it was not taken
   */
  public JsonNode post(String path, Map<String, String> query, JsonNode body) {
    return answer(
        request(path + words(query))
            .timeout(ANSWER)
            .header("Content-Type", "application/json")
            .POST(HttpRequest.BodyPublishers.ofString(body.toString(), StandardCharsets.UTF_8))
            .build());
  }

  /**
   * Sends an upload.
   *
   * @throws PortalException when it was not acknowledged
   */
  public JsonNode upload(UploadForm form) {
    HttpRequest request =
        request("uploads")
            .timeout(UPLOAD_ANSWER)
            .header("Content-Type", form.contentType())
            .POST(HttpRequest.BodyPublishers.ofInputStream(form::body))
            .build();
    return answer(request);
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(base + "/api/v1/projects/" + project + "/" + path))
        .header("Authorization", "Bearer " + token)
        .header("Accept", "application/json");
  }

  /** A word as it stands in an address. */
  public static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  private JsonNode answer(HttpRequest request) {
    return body(exchange(request));
  }

  /**
   * Reads something as a file, which may take the portal a while to make.
   *
   * @param body that it is made by; null when the address says it all
   * @throws PortalException for every answer but 200
   */
  public byte[] file(String path, Map<String, String> query, @Nullable JsonNode body) {
    HttpRequest.Builder request =
        request(path + words(query)).timeout(FILE).setHeader("Accept", "*/*");
    if (body == null) {
      request.GET();
    } else {
      request
          .header("Content-Type", "application/json")
          .POST(HttpRequest.BodyPublishers.ofString(body.toString(), StandardCharsets.UTF_8));
    }
    HttpResponse<byte[]> response =
        exchange(request.build(), HttpResponse.BodyHandlers.ofByteArray());
    if (response.statusCode() == 200) {
      return response.body();
    }
    throw refused(
        response.statusCode(),
        JsonTree.read(new String(response.body(), StandardCharsets.UTF_8)),
        wait(response));
  }

  private HttpResponse<String> exchange(HttpRequest request) {
    return exchange(request, HttpResponse.BodyHandlers.ofString(StandardCharsets.UTF_8));
  }

  private <T> HttpResponse<T> exchange(HttpRequest request, HttpResponse.BodyHandler<T> handler) {
    try {
      return http.send(request, handler);
    } catch (ConnectException e) {
      throw unreachable("nothing answers at " + base + "; is it the portal's address?", e);
    } catch (HttpTimeoutException e) {
      throw unreachable("the portal at " + base + " did not answer in time", e);
    } catch (IOException e) {
      throw unreachable(
          isNoTls(e)
              ? "what answers at "
                  + base
                  + " does not speak TLS as it should ("
                  + e.getMessage()
                  + "); if the portal has none, its address begins with http://"
              : "the connection to " + base + " broke: " + e,
          e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw unreachable("interrupted", e);
    }
  }

  /** Who speaks HTTP alone may hang up before it has said so. */
  private boolean isNoTls(IOException e) {
    return e instanceof SSLException
        || (base.startsWith("https:")
            && String.valueOf(e.getMessage()).contains("received no bytes"));
  }

  private JsonNode body(HttpResponse<String> response) {
    JsonNode body = JsonTree.read(response.body());
    if (response.statusCode() / 100 == 2) {
      if (body == null) {
        throw unreachable(
            "what answers at " + base + " is not the portal (its answer is not JSON)", null);
      }
      return body;
    }
    throw refused(response.statusCode(), body, wait(response));
  }

  /** Only seconds are understood; our portals say no dates. */
  private static long wait(HttpResponse<?> response) {
    String text = response.headers().firstValue("Retry-After").orElse("");
    return text.matches("[0-9]{1,6}") ? Long.parseLong(text) : 0;
  }

  private PortalException refused(int status, @Nullable JsonNode problem, long wait) {
    String type = problem == null ? "" : problem.path("type").asText("");
    if (problem == null || !type.startsWith(PROBLEM)) {
      return new PortalException(
          status,
          "",
          status == 413
              ? "the upload is larger than " + base + " takes (VINE_UPLOAD_MAX_MEGABYTES there)"
              : "what answers at "
                  + base
                  + " is not the portal, or stands before it: HTTP "
                  + status,
          List.of(),
          wait,
          null);
    }
    List<PortalException.Fault> files = new ArrayList<>();
    for (JsonNode file : problem.path("files")) {
      files.add(new PortalException.Fault(file.path("file").asText(), file.path("error").asText()));
    }
    return new PortalException(
        status,
        type.substring(PROBLEM.length()),
        problem.path("detail").asText("HTTP " + status),
        files,
        wait,
        null);
  }

  private static PortalException unreachable(String message, @Nullable Throwable cause) {
    return new PortalException(0, "", message, List.of(), cause);
  }
}
