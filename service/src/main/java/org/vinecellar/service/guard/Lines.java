package org.vinecellar.service.guard;

import io.micrometer.core.instrument.MeterRegistry;
import io.netty.channel.ChannelFuture;
import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.http.HttpConnection;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.impl.ConnectionBase;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.eclipse.microprofile.config.inject.ConfigProperty;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/**
 * The connections of our servers: so many and no more, of one address too, and none that holds its
 * place without asking for anything. When all places are taken, one on which nobody asks gives way,
 * first those on which nobody ever did, so that silent crowds keep nobody out. What a request does
 * once its head is there is not looked at here. Thread-safe.
 */
@Singleton
public class Lines {
  /** So many more are there until those that give way have gone. */
  private static final int GOING = 256;

  /** Who comes sends a head at once; it may need so long to be read. */
  private static final Duration TIME_TO_ASK = Duration.ofSeconds(1);

  private final int most;
  private final Crowd crowd;
  private final Refusals refusals;
  private final Duration silence;
  private final Duration silenceAfterwards;
  private final Map<HttpConnection, Line> lines = new ConcurrentHashMap<>();

  /** Those on which nobody ever asked, and those on which nobody asks any more; longest first. */
  private final Map<HttpConnection, Line> strangers = new LinkedHashMap<>();

  private final Map<HttpConnection, Line> quiet = new LinkedHashMap<>();

  /** Those that were chosen to give way and are not gone yet: whoever counts leaves them out. */
  private final Set<HttpConnection> going = new HashSet<>();

  Lines(
      VineConfig config,
      Refusals refusals,
      MeterRegistry meters,
      @ConfigProperty(name = "quarkus.http.proxy.proxy-address-forwarding", defaultValue = "false")
          boolean behindProxy) {
    this.most = config.door().connections();
    // What comes through a proxy comes from one address.
    this.crowd =
        new Crowd(
            "connections",
            most + GOING,
            behindProxy ? most + GOING : config.door().connectionsOfAddress());
    this.refusals = refusals;
    this.silence = config.door().silence();
    this.silenceAfterwards = config.door().silenceAfterwards();
    meters.gauge("vine.connections", this, Lines::size);
  }

  /** A connection; its last request tells whether somebody is being served. Of one event loop. */
  private static final class Line {
    private final Context loop = Vertx.currentContext();
    private volatile long quietSince = System.nanoTime();
    private @Nullable HttpServerRequest last;

    void asked(HttpServerRequest request) {
      last = request;
      quietSince = System.nanoTime();
    }

    boolean isServed() {
      return last != null && !last.response().ended();
    }
  }

  /** To be called with each new connection; closes it when there are too many. */
  public void opened(HttpConnection connection) {
    Crowd.Place place;
    try {
      place = crowd.enter(Addresses.grouped(connection.remoteAddress().hostAddress()));
    } catch (CellarException e) {
      refusals.note(e.code(), e.text());
      connection.close();
      return;
    }
    Line line = new Line();
    lines.put(connection, line);
    rests(connection, line);
    connection.closeHandler(
        closed -> {
          lines.remove(connection);
          gone(connection, place);
        });
    synchronized (quiet) {
      if (over() > 0) {
        refusals.note(
            ProblemCode.TOO_MANY_AT_ONCE,
            "there are " + most + " connections already; one on which nobody asks gives way");
        Map.Entry<HttpConnection, Line> first = first();
        if (first != null && first.getKey() != connection) {
          giveWay(first);
        }
      }
    }
  }

  private void rests(HttpConnection connection, Line line) {
    synchronized (quiet) {
      if (!going.contains(connection)) {
        (line.last == null ? strangers : quiet).putIfAbsent(connection, line);
      }
    }
  }

  private void wakes(HttpConnection connection) {
    synchronized (quiet) {
      strangers.remove(connection);
      quiet.remove(connection);
    }
  }

  private void gone(HttpConnection connection, Crowd.Place place) {
    synchronized (quiet) {
      wakes(connection);
      going.remove(connection);
      place.leave();
    }
  }

  /** How many there are above the most, when those that were chosen will have gone. */
  private int over() {
    return crowd.size() - going.size() - most;
  }

  private void giveWay(Map.Entry<HttpConnection, Line> chosen) {
    HttpConnection connection = chosen.getKey();
    Line line = chosen.getValue();
    wakes(connection);
    going.add(connection);
    line.loop.runOnContext(
        now -> {
          if (line.isServed()) {
            synchronized (quiet) {
              going.remove(connection);
            }
          } else {
            cut(connection);
          }
        });
  }

  /**
   * A stranger who had time to ask; else somebody who asked before, and may ask again at this very
   * moment; else whoever is there longest.
   */
  private Map.@Nullable Entry<HttpConnection, Line> first() {
    Map.Entry<HttpConnection, Line> rested = rested();
    return rested == null ? longest(strangers) : rested;
  }

  private Map.@Nullable Entry<HttpConnection, Line> rested() {
    Map.Entry<HttpConnection, Line> stranger = longest(strangers);
    return stranger != null
            && System.nanoTime() - stranger.getValue().quietSince > TIME_TO_ASK.toNanos()
        ? stranger
        : longest(quiet);
  }

  private static Map.@Nullable Entry<HttpConnection, Line> longest(
      Map<HttpConnection, Line> silent) {
    Iterator<Map.Entry<HttpConnection, Line>> all = silent.entrySet().iterator();
    return all.hasNext() ? all.next() : null;
  }

  /** To be called with each request, when its head is there. */
  public void asked(HttpServerRequest request) {
    Line line = lines.get(request.connection());
    if (line != null) {
      line.asked(request);
      wakes(request.connection());
    }
  }

  /**
   * Closes what has been silent for too long; each on its own event loop, so that no request that
   * just comes is met. What is more than the most since the last time gives way, but nobody who had
   * no time to ask: what was just answered is only seen here, and until then there are some more.
   */
  public void sweep() {
    synchronized (quiet) {
      for (int more = over(); more > 0; more--) {
        Map.Entry<HttpConnection, Line> rested = rested();
        if (rested == null) {
          break;
        }
        giveWay(rested);
      }
    }
    lines.forEach((connection, line) -> line.loop.runOnContext(now -> look(connection, line)));
  }

  private void look(HttpConnection connection, Line line) {
    if (!lines.containsKey(connection)) {
      return;
    }
    long now = System.nanoTime();
    Duration longest = line.last == null ? silence : silenceAfterwards;
    if (line.isServed()) {
      line.quietSince = now;
    } else if (now - line.quietSince > longest.toNanos()) {
      cut(connection);
    } else {
      rests(connection, line);
    }
  }

  /**
   * Ends a connection at once, on its event loop. Its own close would first wait until the other
   * side has taken all that was sent to it, which may be never.
   */
  public static void cut(HttpConnection connection) {
    ChannelFuture unused = ((ConnectionBase) connection).channelHandlerContext().close();
  }

  /** How many there are. */
  public int size() {
    return crowd.size();
  }
}
