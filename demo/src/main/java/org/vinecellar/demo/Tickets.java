package org.vinecellar.demo;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The harbour log: what stands in it, that the project works with it, and what is linked. */
final class Tickets {
  private static final ObjectMapper JSON = new ObjectMapper();

  /** Its stand-in wants to hear it. */
  private static final String SECRET = "quay-4711";

  /**
   * An entry of the log.
   *
   * @param nightsAgo when it was closed
   * @param group words of the failure group that it is linked to; null for none
   */
  private record Written(
      String title, String text, String state, int nightsAgo, @Nullable String group) {}

  private static final List<Written> ALL =
      List.of(
          new Written(
              "Boarding pass shows the old quay after a change",
              "Seen at the kiosk on Nordkai: the pass still names the quay of the morning.",
              "doing",
              0,
              null),
          new Written(
              "Fares with half a cent are rounded down",
              "12.495 is paid as 12.49. FareRounding cuts in place of rounding half up.",
              "done",
              18,
              "fare in EUR"),
          new Written(
              "Staging database refuses connections",
              "The disk of staging-db was full. Watch it, and keep a reserve.",
              "to do",
              0,
              "`staging-db` refuses"),
          new Written(
              "No fare for the new island in the fare table",
              "Långskär is sailed to since Monday, but FareTable.fareOf throws a"
                  + " MissingFareException for every route with it.",
              "to do",
              0,
              null),
          new Written(
              "Fare table takes four seconds to load", "Cold start only.", "dropped", 30, null),
          new Written(
              "Cabin plan fails for ships without a deck plan",
              "deck is null in CabinPlan.deckOf when a ship was chartered.",
              "doing",
              0,
              "CabinPlan.deckOf"),
          new Written(
              "Storm notice covers the ticket buttons",
              "On small kiosks the yellow notice lies over the button.",
              "done",
              40,
              null),
          new Written("Printer at Sørhavn runs out of paper unseen", "", "to do", 0, null),
          new Written(
              "Payment gateway unreachable at night",
              "pay-gate is restarted at 01:30, just when the nightly tests begin.",
              "doing",
              0,
              null),
          new Written(
              "Certificate of the crew service ends in November", "Renew it.", "done", 2, null),
          new Written("Refunds of vouchers lose the currency", "", "to do", 0, null));

  private final HttpClient http = HttpClient.newHttpClient();
  private final String portal;
  private final String log;
  private final Instant lastNight;

  Tickets(String portal, String log, Instant lastNight) {
    this.portal = portal + "/api/v1";
    this.log = log;
    this.lastNight = lastNight;
  }

  void load(String user, String password) throws IOException {
    HttpResponse<String> session =
        sent(
            "POST",
            portal + "/session",
            JSON.createObjectNode().put("login", user).put("password", password),
            Map.of());
    String cookie = session.headers().firstValue("Set-Cookie").orElseThrow();
    Map<String, String> signedIn =
        Map.of(
            "Cookie",
            cookie.substring(0, cookie.indexOf(';')),
            "X-Vine-Csrf",
            JSON.readTree(session.body()).path("csrf").asText());
    String project = portal + "/projects/skerrow-line";
    ObjectNode tracker = JSON.createObjectNode().put("version", 0).put("secret", SECRET);
    tracker.set("settings", settings());
    sent("PUT", project + "/tracker", tracker, signedIn);
    JsonNode groups =
        JSON.readTree(sent("GET", project + "/groups?show=all&limit=500", null, signedIn).body())
            .path("groups");
    for (Written one : ALL) {
      String key = write(one);
      for (JsonNode group : groups) {
        if (one.group != null && group.path("sentence").asText().contains(one.group)) {
          sent(
              "POST",
              project + "/groups/" + group.path("group").asLong() + "/tickets",
              JSON.createObjectNode().put("key", key),
              signedIn);
        }
      }
    }
  }

  private String write(Written one) throws IOException {
    ObjectNode entry =
        JSON.createObjectNode()
            .put("title", one.title)
            .put("text", one.text)
            .put("state", one.state)
            .put("closedAt", lastNight.minus(one.nightsAgo, ChronoUnit.DAYS).toString());
    return JSON.readTree(
            sent("POST", log + "/api/entries", entry, Map.of("Authorization", "Bearer " + SECRET))
                .body())
        .path("entry")
        .path("key")
        .asText();
  }

  private ObjectNode settings() {
    ObjectNode settings =
        JSON.createObjectNode()
            .put("name", "Harbour log")
            .put("find", log + "/api/entries?words={text}&most={most}")
            .put("read", log + "/api/entries/{key}")
            .put("page", log + "/look/{key}")
            .put("create", log + "/api/entries")
            .put("createBody", "{\"title\": \"{title}\", \"text\": \"{text}\"}")
            .put("comment", log + "/api/entries/{key}/said")
            .put("commentBody", "{\"text\": \"{text}\"}")
            .put("header", "Authorization: Bearer {secret}")
            .put("listAt", "/entries")
            .put("entryAt", "/entry")
            .put("keyAt", "/key")
            .put("titleAt", "/title")
            .put("textAt", "/text")
            .put("stateAt", "/state")
            .put("closedAtAt", "/closedAt");
    settings.putArray("closed").add("done").add("dropped");
    return settings;
  }

  private HttpResponse<String> sent(
      String method, String url, @Nullable ObjectNode body, Map<String, String> headers)
      throws IOException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(url)).header("Content-Type", "application/json");
    headers.forEach(request::header);
    try {
      HttpResponse<String> answer =
          http.send(
              request
                  .method(
                      method,
                      body == null
                          ? HttpRequest.BodyPublishers.noBody()
                          : HttpRequest.BodyPublishers.ofString(body.toString()))
                  .build(),
              HttpResponse.BodyHandlers.ofString());
      if (answer.statusCode() / 100 != 2) {
        throw new IOException(method + " " + url + ": " + answer.body());
      }
      return answer;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException("stopped", e);
    }
  }
}
