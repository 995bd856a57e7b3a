package org.vinecellar.client.spool;

import com.fasterxml.jackson.databind.JsonNode;
import java.time.Duration;
import java.util.concurrent.ThreadLocalRandom;
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
        if (!e.mayPass()) {
          throw e;
        }
        if (first) {
          beforeRetry.run();
          first = false;
        }
        Duration next = longer(wait, Duration.ofSeconds(e.waitSeconds()));
        if (System.nanoTime() - begun + next.toNanos() > time.toNanos()) {
          throw e;
        }
        notes.accept(e.getMessage() + "; trying again in " + words(next));
        pause(next);
        wait =
            wait.multipliedBy(2).compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait.multipliedBy(2);
      }
    }
  }

  /**
   * What the portal asks for is obeyed. A little more, by chance, keeps many from coming at once.
   */
  private static Duration longer(Duration own, Duration asked) {
    if (asked.compareTo(own) <= 0) {
      return own;
    }
    return asked.plusMillis(ThreadLocalRandom.current().nextLong(asked.toMillis() / 2 + 1));
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
