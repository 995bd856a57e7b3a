package org.vinecellar.service.triage.tickets;

import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.inject.Singleton;
import java.net.URI;
import java.net.http.HttpClient;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.Tracker;
import org.vinecellar.core.triage.tickets.TrackerException;
import org.vinecellar.core.triage.tickets.TrackerSettings;
import org.vinecellar.service.config.VineConfig;

/**
 * Trackers by their settings. Calls go to hosts that the operator allows, and a few at a time, so
 * that one that hangs does not hold all threads. One that did not answer is left alone for a
 * moment.
 */
@Singleton
public class Trackers {
  private static final int AT_ONCE = 6;
  private static final Duration LEFT_ALONE = Duration.ofSeconds(10);
  private static final Duration CONNECT = Duration.ofSeconds(3);

  private record Away(Instant until, String why) {}

  private final HttpClient client =
      HttpClient.newBuilder()
          .followRedirects(HttpClient.Redirect.NEVER)
          .connectTimeout(CONNECT)
          .version(HttpClient.Version.HTTP_1_1)
          .build();

  private final Semaphore calls = new Semaphore(AT_ONCE);
  private final Map<String, Away> away = new ConcurrentHashMap<>();
  private final List<String> allowed;
  private final ObjectMapper json;
  private final InstantSource clock;

  Trackers(VineConfig config, ObjectMapper json, InstantSource clock) {
    this.allowed =
        config.tracker().hosts().orElse(List.of()).stream()
            .map(host -> host.strip().toLowerCase(Locale.ROOT))
            .toList();
    this.json = json;
    this.clock = clock;
  }

  /** Whether the operator lets the portal speak to where these lead. */
  boolean allows(TrackerSettings settings) {
    URI uri = URI.create(settings.origin());
    boolean usual =
        uri.getPort() < 0 || uri.getPort() == ("https".equals(uri.getScheme()) ? 443 : 80);
    String host = uri.getHost();
    return host != null
        && (usual && allowed.contains(host) || allowed.contains(host + ":" + port(uri)));
  }

  private static int port(URI uri) {
    return uri.getPort() >= 0 ? uri.getPort() : "https".equals(uri.getScheme()) ? 443 : 80;
  }

  /** Spoken to as these settings say. */
  Tracker of(TrackerSettings settings, @Nullable String secret) {
    if (!allows(settings)) {
      throw new TrackerException(
          "the operator of the portal has not allowed it to call "
              + settings.origin()
              + "; they set VINE_TRACKER_HOSTS to its host, with the port when it is not the usual"
              + " one",
          false,
          null);
    }
    return new Guarded(settings, new HttpTracker(client, json, settings, secret));
  }

  private final class Guarded implements Tracker {
    private final TrackerSettings settings;
    private final Tracker tracker;

    Guarded(TrackerSettings settings, Tracker tracker) {
      this.settings = settings;
      this.tracker = tracker;
    }

    @Override
    public List<Entry> find(String text, int most) {
      return guarded(() -> tracker.find(text, most));
    }

    @Override
    public Optional<Entry> read(String key) {
      return guarded(() -> tracker.read(key));
    }

    @Override
    public Entry create(String title, String text) {
      return guarded(() -> tracker.create(title, text));
    }

    @Override
    public void comment(String key, String text) {
      guarded(
          () -> {
            tracker.comment(key, text);
            return true;
          });
    }

    private <T> T guarded(Supplier<T> call) {
      Away before = away.get(settings.origin());
      if (before != null && clock.instant().isBefore(before.until)) {
        throw new TrackerException(before.why, false, null);
      }
      if (!calls.tryAcquire()) {
        throw new TrackerException(
            "too many wait for a tracker at the moment; try again shortly", false, null);
      }
      try {
        T answer = call.get();
        away.remove(settings.origin());
        return answer;
      } catch (TrackerException e) {
        if (e.getCause() != null) {
          away.put(
              settings.origin(),
              new Away(clock.instant().plus(LEFT_ALONE), String.valueOf(e.getMessage())));
        }
        throw e;
      } finally {
        calls.release();
      }
    }
  }
}
