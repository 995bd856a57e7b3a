package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.util.Map;
import org.vinecellar.client.http.Portal;

/**
 * Waits until the portal has grouped the failures of a run, carried what was decided before, and
 * learned what it tells of its tests.
 */
final class Explained {
  /** Grouping takes moments; a portal that is busy with others says so and goes on by itself. */
  private static final Duration LONGEST = Duration.ofSeconds(60);

  /** What its tests are taken for is no reason to keep a pipeline waiting. */
  private static final Duration LEARNED = Duration.ofSeconds(10);

  private static final Duration FIRST = Duration.ofMillis(40);
  private static final Duration MOST = Duration.ofMillis(500);

  private final Portal portal;

  Explained(Portal portal) {
    this.portal = portal;
  }

  /**
   * @return the run; whether it is explained, it says itself
   */
  JsonNode await(long run) {
    Duration wait = FIRST;
    Duration waited = Duration.ZERO;
    JsonNode found = portal.get("runs/" + run, Map.of());
    Duration since = Duration.ZERO;
    while (!isKnown(found)
        && waited.compareTo(LONGEST) < 0
        && since.compareTo(LEARNED) < 0
        && slept(wait)) {
      waited = waited.plus(wait);
      since = found.path("explained").asBoolean() ? since.plus(wait) : since;
      wait = wait.multipliedBy(2).compareTo(MOST) > 0 ? MOST : wait.multipliedBy(2);
      found = portal.get("runs/" + run, Map.of());
    }
    return found;
  }

  private static boolean isKnown(JsonNode run) {
    return run.path("explained").asBoolean() && run.path("learned").asBoolean();
  }

  private static boolean slept(Duration wait) {
    try {
      Thread.sleep(wait.toMillis());
      return true;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }
}
