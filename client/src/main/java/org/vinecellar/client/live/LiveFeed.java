package org.vinecellar.client.live;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.live.LiveJson;
import org.vinecellar.core.results.RunningNow;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/**
 * Sends results in batches while they come in, from the first test on: what turns out to be no
 * result leaves nothing in the portal. It never holds up the tests: what cannot be sent for long is
 * let go, since the whole part is sent at the end anyway.
 */
public final class LiveFeed implements AutoCloseable {
  private static final long EVERY_MS = 500;
  private static final long SIGN_OF_LIFE_MS = 10_000;
  private static final long LONGEST_PAUSE_MS = 15_000;
  private static final int MAX_WAITING = 50_000;
  private static final int MAX_KNOWN_RUNNING = 10_000;

  private final Portal portal;
  private final ObjectNode beginning;
  private final Consumer<String> notes;
  private final Consumer<String> begun;
  private final Deque<TestResult> waiting = new ArrayDeque<>();
  private final LiveNames names = new LiveNames();
  private final Map<TestId, RunningNow> running = new LinkedHashMap<>();
  private final Thread sender = new Thread(this::send, "live-feed");
  private boolean changed;
  private boolean started;
  private boolean ended;
  private int letGo;

  // Of the sender only.
  private volatile @Nullable String live;
  private volatile @Nullable String url;
  private LiveJson.@Nullable Batch pending;
  private int batch;
  private long pauseMs;

  /**
   * @param beginning what the part says of itself, as the portal's API wants it
   * @param notes gets a line when the portal cannot be reached, and when it can again
   * @param begun gets what the portal calls the part, as soon as it is there
   */
  public LiveFeed(
      Portal portal, ObjectNode beginning, Consumer<String> notes, Consumer<String> begun) {
    this.portal = portal;
    this.beginning = beginning;
    this.notes = notes;
    this.begun = begun;
    sender.setDaemon(true);
  }

  private void start() {
    if (!started) {
      started = true;
      sender.start();
    }
  }

  /** A test has begun. */
  public synchronized void started(TestId test, @Nullable Instant time) {
    start();
    if (running.size() < MAX_KNOWN_RUNNING) {
      running.put(test, new RunningNow(test.suite().names(), test.displayName(), time));
      changed = true;
    }
  }

  /** What was told to have begun has ended, and was no test. */
  public synchronized void ended(TestId test) {
    changed |= running.remove(test) != null;
  }

  /** A test has ended. */
  public synchronized void finished(TestResult result, Repeat repeat) {
    start();
    running.remove(result.test());
    if (waiting.size() < MAX_WAITING) {
      waiting.add(names.of(result, repeat));
    } else {
      letGo++;
    }
    changed = true;
  }

  /** What the portal calls the part; null when it could not be begun. */
  public @Nullable String live() {
    return live;
  }

  private void send() {
    long lastSent = System.nanoTime();
    while (true) {
      boolean last;
      boolean due;
      synchronized (this) {
        last = ended;
        due = changed || System.nanoTime() - lastSent > SIGN_OF_LIFE_MS * 1_000_000;
      }
      if (due || live == null || pending != null) {
        try {
          open();
          append();
          lastSent = System.nanoTime();
          back();
        } catch (PortalException e) {
          away(e);
        }
      }
      if (last) {
        return;
      }
      pause(Math.max(EVERY_MS, pauseMs));
    }
  }

  private void open() {
    if (live == null) {
      JsonNode part = portal.post("live", beginning);
      live = part.path("live").asText();
      url = part.path("url").asText();
      begun.accept(part.path("live").asText());
      notes.accept("live at " + url);
    }
  }

  /** Sends a batch until it is taken, the very same each time: its answer may have been lost. */
  private void append() {
    LiveJson.Batch sent = pending == null ? next() : pending;
    pending = sent;
    JsonNode taken = portal.post("live/" + live + "/batches", LiveJson.write(sent));
    pending = null;
    batch = taken.path("batch").asInt();
    synchronized (this) {
      sent.results().forEach(result -> waiting.poll());
      changed |= !waiting.isEmpty();
    }
  }

  private synchronized LiveJson.Batch next() {
    changed = false;
    return new LiveJson.Batch(
        batch + 1,
        waiting.stream().limit(LiveJson.MAX_RESULTS).toList(),
        running.values().stream().limit(LiveJson.MAX_RUNNING).toList());
  }

  private void back() {
    if (pauseMs > 0) {
      notes.accept("the portal is back; what is shown there catches up");
      pauseMs = 0;
    }
  }

  private void away(PortalException e) {
    if (pauseMs == 0) {
      notes.accept(
          e.getMessage() + "; nothing is shown live until it is back, and nothing is lost");
    }
    pauseMs = Math.min(LONGEST_PAUSE_MS, Math.max(EVERY_MS, pauseMs * 2));
  }

  private void pause(long ms) {
    try {
      synchronized (this) {
        if (!ended) {
          wait(ms);
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** Sends what waits, as far as it can be sent at once, and ends. */
  @Override
  public void close() {
    synchronized (this) {
      ended = true;
      running.clear();
      notifyAll();
    }
    try {
      sender.join(5_000);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    if (letGo > 0) {
      notes.accept(letGo + " results were not shown live; they come with the whole part");
    }
  }
}
