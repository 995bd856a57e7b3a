package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.fasterxml.jackson.databind.node.TextNode;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;

/** What is asked of a run by who looks into it: what fails and since when, and how it came so. */
final class RunLook {
  /** Each costs a call. */
  private static final int TOLD_SINCE = 20;

  /** So many runs before are told; it may have begun before them. */
  private static final int MANY = 30;

  private final Portal portal;
  private final JsonNode head;
  private final String path;

  /**
   * @param head the run as the portal lists it
   */
  RunLook(Portal portal, JsonNode head) {
    this.portal = portal;
    this.head = head;
    this.path = "runs/" + head.path("id").asText();
  }

  /**
   * The run with {@code parts}, outermost {@code suites}, {@code lastGreen} (null for none before
   * it, absent when it is green itself) and {@code failing} results, which tell {@code since} where
   * they did not begin with it.
   */
  ObjectNode all(int limit) {
    ObjectNode all = JsonNodeFactory.instance.objectNode();
    all.set("run", head);
    all.set("parts", portal.get(path + "/parts", Map.of()));
    all.set("suites", portal.get(path + "/suites", Map.of()));
    ArrayNode failing = failing(limit);
    if (!isGreen(head)) {
      all.set("lastGreen", lastGreen());
    }
    all.set("failing", failing);
    return all;
  }

  private static boolean isGreen(JsonNode run) {
    JsonNode counts = run.path("counts");
    return counts.path("failed").asInt()
            + counts.path("errored").asInt()
            + counts.path("setUps").asInt()
        == 0;
  }

  private ArrayNode failing(int limit) {
    ArrayNode failing = JsonNodeFactory.instance.arrayNode();
    JsonNode rows =
        portal.get(path + "/results", Map.of("limit", Integer.toString(Math.max(1, limit))));
    for (JsonNode row : rows) {
      if (isFailing(row)) {
        failing.add(row);
        if (row.path("change").asText("").equals("failing as before")
            && failing.size() <= TOLD_SINCE
            && row instanceof ObjectNode told) {
          since(told);
        }
      }
    }
    return failing;
  }

  private static boolean isFailing(JsonNode row) {
    String outcome = row.path("outcome").asText();
    return outcome.equals("failed") || outcome.equals("errored");
  }

  /** The first of the runs right before in which it failed each time. */
  private void since(ObjectNode row) {
    JsonNode before =
        portal
            .get(path + "/results/" + Portal.encoded(row.path("id").asText()), Map.of())
            .path("before");
    Integer since = null;
    boolean longer = true;
    for (JsonNode earlier : before) {
      if (!isFailing(earlier)) {
        longer = false;
        break;
      }
      since = earlier.path("run").asInt();
    }
    if (since != null) {
      row.put("since", since);
      row.put("orLonger", longer && before.size() >= MANY);
    }
  }

  private @Nullable JsonNode lastGreen() {
    String branch = head.path("branch").asText("");
    JsonNode found =
        portal.get(
            "runs",
            Map.of(
                "stream",
                head.path("stream").asText(),
                "limit",
                "1",
                "filter",
                "failed eq 0 and errored eq 0 and setUps eq 0 and passed gt 0 and open eq false"
                    + " and branch eq "
                    + (branch.isEmpty() ? "null" : TextNode.valueOf(branch))
                    + " and started lt \""
                    + head.path("startedAt").asText()
                    + "\""));
    return found.isEmpty() ? JsonNodeFactory.instance.nullNode() : found.get(0);
  }
}
