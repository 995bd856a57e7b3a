package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import org.vinecellar.client.http.Portal;

/** What a receipt would tell of a run's tests once it is known which of them were renamed. */
final class SecondLook {
  /** As many failures as a receipt lists. */
  private static final int MOST = 10;

  private static final String NEW = "change eq \"new failing\"";
  private static final String ALL =
      "outcome eq \"failed\" or outcome eq \"errored\" or setUp eq true";

  private final Portal portal;

  SecondLook(Portal portal) {
    this.portal = portal;
  }

  /** The receipt, with changes, failures and what of them is in quarantine as they are now. */
  JsonNode at(JsonNode receipt, JsonNode run) {
    long id = run.path("id").asLong();
    ObjectNode looked = receipt.deepCopy();
    looked.set("changes", run.path("changes"));
    looked.set("failing", failing(id));
    looked.set("quarantined", portal.get("quarantine/runs/" + id, Map.of()));
    return looked;
  }

  /** New ones first. */
  private ArrayNode failing(long run) {
    ArrayNode failing = JsonNodeFactory.instance.arrayNode();
    Set<String> listed = new HashSet<>();
    for (String filter : new String[] {NEW, ALL}) {
      for (JsonNode row : results(run, filter)) {
        if (failing.size() < MOST && listed.add(row.path("id").asText())) {
          failing.add(row);
        }
      }
    }
    return failing;
  }

  private JsonNode results(long run, String filter) {
    return portal.get(
        "runs/" + run + "/results", Map.of("filter", filter, "limit", Integer.toString(MOST)));
  }
}
