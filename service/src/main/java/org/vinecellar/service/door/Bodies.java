package org.vinecellar.service.door;

import io.vertx.core.Vertx;
import io.vertx.core.buffer.Buffer;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.ext.web.RoutingContext;
import jakarta.inject.Singleton;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicLong;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Crowd;

/** Reads bodies into memory on the event loop: up to a size, for a time, and few at once. */
@Singleton
public class Bodies {
  /** All bodies that are in memory, together. */
  private static final long MOST_BYTES = 48L << 20;

  private static final Duration LONGEST = Duration.ofMinutes(2);

  /**
   * Who has sent all by then was never in anybody's way: only slower ones are counted, so that
   * those who stall take no place away from those who do not.
   */
  public static final long PROMPT_MS = 500;

  private final Crowd crowd;
  private final Duration idle;
  private final AtomicLong held = new AtomicLong();

  Bodies(VineConfig config) {
    this.crowd =
        new Crowd("bodies being sent", config.door().bodies(), config.door().bodiesOfAddress());
    this.idle = config.door().bodyIdle();
  }

  /** Those who are sending a body and take their time; uploads count, too. */
  public Crowd crowd() {
    return crowd;
  }

  /**
   * No route unpacks what it did not ask for.
   *
   * @throws CellarException {@code WRONG_TYPE} for a packed body
   */
  static void requirePlain(HttpServerRequest request) {
    String encoding = request.getHeader("Content-Encoding");
    if (encoding != null && !encoding.equalsIgnoreCase("identity")) {
      throw new CellarException(
          ProblemCode.WRONG_TYPE,
          "the body is packed (Content-Encoding: "
              + (encoding.length() > 40 ? encoding.substring(0, 40) + "…" : encoding)
              + "); send it as it is. Files inside of an upload may be packed with gzip");
    }
  }

  /**
   * Refuses by the header what is too large.
   *
   * @throws CellarException {@code TOO_LARGE}
   */
  public static void requireLength(HttpServerRequest request, long most) {
    if (length(request) > most) {
      throw tooLarge(most);
    }
  }

  /** Whether a body comes at all (RFC 9112, section 6.3). */
  public static boolean isAny(HttpServerRequest request) {
    return length(request) > 0 || request.getHeader("Transfer-Encoding") != null;
  }

  /** What the header tells; 0 when it does not. */
  public static long length(HttpServerRequest request) {
    String length = request.getHeader("Content-Length");
    try {
      return length == null ? 0 : Long.parseLong(length);
    } catch (NumberFormatException e) {
      return 0;
    }
  }

  private static CellarException gone() {
    return new CellarException(ProblemCode.INVALID_VALUE, "the sender has gone");
  }

  private static CellarException tooLarge(long most) {
    return new CellarException(
        ProblemCode.TOO_LARGE, "the body is larger than the " + most + " bytes that this takes");
  }

  /** Lets the sender go on who asked before sending (RFC 9110, section 10.1.1). */
  public static void sayContinue(RoutingContext context) {
    if ("100-continue".equalsIgnoreCase(context.request().getHeader("Expect"))) {
      context.response().writeContinue();
    }
  }

  /**
   * Reads a body. To be called on the request's own event loop, which completes what is returned.
   *
   * @return fails with {@code TOO_LARGE}, {@code TOO_SLOW}, {@code TOO_MANY_AT_ONCE}, or {@code
   *     INVALID_VALUE} when the sender broke off
   */
  public CompletableFuture<Buffer> read(RoutingContext context, long most) {
    try {
      requireLength(context.request(), most);
    } catch (CellarException e) {
      return CompletableFuture.failedFuture(e);
    }
    if (context.request().isEnded()) {
      // The sender hung up while it was being recognised.
      return CompletableFuture.failedFuture(gone());
    }
    Reading reading = new Reading(context, most);
    reading.begin();
    return reading.result;
  }

  /** One body on its way. All on one event loop. */
  private final class Reading {
    private final CompletableFuture<Buffer> result = new CompletableFuture<>();
    private final RoutingContext context;
    private final Vertx vertx;
    private final long most;
    private final long begun = System.nanoTime();
    private final Buffer body = Buffer.buffer();
    private Crowd.@Nullable Place place;
    private long lastCame = begun;
    private long timer;

    Reading(RoutingContext context, long most) {
      this.context = context;
      this.vertx = context.vertx();
      this.most = most;
    }

    void begin() {
      HttpServerRequest request = context.request();
      timer = vertx.setPeriodic(PROMPT_MS, tick -> look());
      context.addEndHandler(
          ended -> {
            held.addAndGet(-body.length());
            end(gone());
          });
      request.handler(this::came);
      request.endHandler(nothing -> end(null));
      request.exceptionHandler(
          broken ->
              end(new CellarException(ProblemCode.INVALID_VALUE, "the body ended too early")));
      sayContinue(context);
      request.resume();
    }

    private void came(Buffer piece) {
      if (result.isDone()) {
        return;
      }
      lastCame = System.nanoTime();
      if (body.length() + piece.length() > most) {
        end(tooLarge(most));
        return;
      }
      body.appendBuffer(piece);
      if (held.addAndGet(piece.length()) > MOST_BYTES) {
        end(
            new TryLaterException(
                ProblemCode.TOO_MANY_AT_ONCE,
                "too much is being sent at once; try again in a moment",
                Duration.ofSeconds(2)));
      }
    }

    private void look() {
      long now = System.nanoTime();
      if (place == null) {
        try {
          place = crowd.enter(Addresses.of(context.request()));
        } catch (CellarException e) {
          end(e);
          return;
        }
      }
      if (now - lastCame > idle.toNanos() || now - begun > LONGEST.toNanos()) {
        end(
            new CellarException(
                ProblemCode.TOO_SLOW,
                "nothing came of the body for "
                    + idle.toSeconds()
                    + " seconds, or all of it took too long; send it again"));
      }
    }

    private void end(@Nullable CellarException failure) {
      if (result.isDone()) {
        return;
      }
      vertx.cancelTimer(timer);
      if (place != null) {
        place.leave();
      }
      if (failure == null) {
        result.complete(body);
      } else {
        context.request().pause();
        result.completeExceptionally(failure);
      }
    }
  }
}
