package org.vinecellar.client.spool;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;

/** Tries to deliver an upload until it is acknowledged, refused, or the time is up. */
public final class Delivery {
  private static final Duration FIRST_WAIT = Duration.ofMillis(500);
  private static final Duration LONGEST_WAIT = Duration.ofSeconds(15);

  private final Portal portal;
  private final Duration time;
  private final Consumer<String> notes;

  /**
   * @param time how long to go on trying after the first failure
   * @param notes gets a line for each try that failed
   */
  public Delivery(Portal portal, Duration time, Consumer<String> notes) {
    this.portal = portal;
    this.time = time;
    this.notes = notes;
  }

  /** Whether the same upload may well be taken later: the portal is away, or has a fault. */
  public static boolean mayPass(PortalException e) {
    return e.status() == 0 || e.status() >= 500;
  }

  /**
   * Delivers.
   *
   * @param form made anew for each try
   * @param beforeRetry called once after the first failure, before any waiting
   * @throws PortalException of the last try
   */
  public JsonNode send(Supplier<UploadForm> form, Runnable beforeRetry) {
    long begun = System.nanoTime();
    Duration wait = FIRST_WAIT;
    boolean first = true;
    while (true) {
      try {
        return portal.upload(form.get());
      } catch (PortalException e) {
        if (!mayPass(e)) {
          throw e;
        }
        if (first) {
          beforeRetry.run();
          first = false;
        }
        if (System.nanoTime() - begun + wait.toNanos() > time.toNanos()) {
          throw e;
        }
        notes.accept(e.getMessage() + "; trying again in " + words(wait));
        pause(wait);
        wait =
            wait.multipliedBy(2).compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait.multipliedBy(2);
      }
    }
  }

  private static String words(Duration wait) {
    return wait.toMillis() < 1000 ? wait.toMillis() + " ms" : wait.toSeconds() + " s";
  }

  private static void pause(Duration wait) {
    try {
      Thread.sleep(wait.toMillis());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while waiting for the portal", e);
    }
  }
}
