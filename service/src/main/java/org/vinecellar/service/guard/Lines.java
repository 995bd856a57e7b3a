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
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.eclipse.microprofile.config.inject.ConfigProperty;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.service.config.VineConfig;

/**
 * The connections of our servers: so many and no more, of one address too, and none that holds its
 * place without asking for anything. What a request does once its head is there is not looked at
 * here. Thread-safe.
 */
@Singleton
public class Lines {
  private final Crowd crowd;
  private final Refusals refusals;
  private final Duration silence;
  private final Duration silenceAfterwards;
  private final Map<HttpConnection, Line> lines = new ConcurrentHashMap<>();

  Lines(
      VineConfig config,
      Refusals refusals,
      MeterRegistry meters,
      @ConfigProperty(name = "quarkus.http.proxy.proxy-address-forwarding", defaultValue = "false")
          boolean behindProxy) {
    int most = config.door().connections();
    // What comes through a proxy comes from one address.
    this.crowd =
        new Crowd("connections", most, behindProxy ? most : config.door().connectionsOfAddress());
    this.refusals = refusals;
    this.silence = config.door().silence();
    this.silenceAfterwards = config.door().silenceAfterwards();
    meters.gauge("vine.connections", this, Lines::size);
  }

  /** A connection; its last request tells whether somebody is being served. Of one event loop. */
  private static final class Line {
    private final Context loop = Vertx.currentContext();
    private long quietSince = System.nanoTime();
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
    lines.put(connection, new Line());
    connection.closeHandler(
        closed -> {
          lines.remove(connection);
          place.leave();
        });
  }

  /** To be called with each request, when its head is there. */
  public void asked(HttpServerRequest request) {
    Line line = lines.get(request.connection());
    if (line != null) {
      line.asked(request);
    }
  }

  /**
   * Closes what has been silent for too long; each on its own event loop, so that no request that
   * just comes is met.
   */
  public void sweep() {
    lines.forEach((connection, line) -> line.loop.runOnContext(now -> look(connection, line)));
  }

  private void look(HttpConnection connection, Line line) {
    long now = System.nanoTime();
    Duration most = line.last == null ? silence : silenceAfterwards;
    if (line.isServed()) {
      line.quietSince = now;
    } else if (now - line.quietSince > most.toNanos()) {
      cut(connection);
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
