package org.vinecellar.service.ingest;

import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.buffer.Buffer;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.ext.web.RoutingContext;
import jakarta.inject.Singleton;
import java.nio.file.Path;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.door.Bodies;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Disk;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;

/**
 * Brings uploads onto the disk. The sender sets the pace and holds no thread: pieces come on the
 * event loop and are written by a few threads that do nothing else.
 */
@Singleton
class UploadIntake {
  private static final Pattern BOUNDARY =
      Pattern.compile("(?i).*;\\s*boundary=(?:\"([^\"]{1,70})\"|([^\\s;\"]{1,70})).*");
  private static final Duration LONGEST = Duration.ofHours(2);

  /** Who announces more than this is counted from the start. */
  private static final long LARGE_BYTES = 1 << 20;

  /** So much may wait for a thread before the sender has to. */
  private static final int PAUSE_BYTES = 256 << 10;

  private final UploadSpool spool;
  private final Rooms rooms;
  private final Disk disk;
  private final Bodies bodies;
  private final Duration idle;
  private final long mostBytes;

  UploadIntake(UploadSpool spool, Rooms rooms, Disk disk, Bodies bodies, VineConfig config) {
    this.spool = spool;
    this.rooms = rooms;
    this.disk = disk;
    this.bodies = bodies;
    this.idle = config.door().bodyIdle();
    this.mostBytes = config.upload().maxMegabytes() << 20;
  }

  /** An upload on the disk; to be removed by who got it. */
  record Received(Path directory, UploadFields fields, long bytes) {}

  /**
   * Receives the body of a request. To be called on its event loop.
   *
   * @return fails with {@code TOO_LARGE}, {@code TOO_SLOW}, {@code TOO_MANY_AT_ONCE}, {@code
   *     DISK_FULL} or {@code INVALID_VALUE}; then nothing is left
   */
  CompletableFuture<Received> receive(RoutingContext context) {
    HttpServerRequest request = context.request();
    try {
      String boundary = boundary(request.getHeader("Content-Type"));
      Bodies.requireLength(request, mostBytes);
      long expected = Bodies.length(request);
      disk.require(expected);
      if (!Bodies.isAny(request)) {
        throw new CellarException(ProblemCode.INVALID_VALUE, "the request has no body");
      }
      Receiving receiving = new Receiving(context, boundary, expected);
      receiving.begin();
      return receiving.result;
    } catch (CellarException e) {
      return CompletableFuture.failedFuture(e);
    }
  }

  private static String boundary(@Nullable String contentType) {
    Matcher matcher = BOUNDARY.matcher(contentType == null ? "" : contentType);
    if (!matcher.matches()) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "the Content-Type names no boundary; send a form (multipart/form-data, RFC 7578)");
    }
    return matcher.group(1) == null ? String.valueOf(matcher.group(2)) : matcher.group(1);
  }

  /** One upload on its way. All fields belong to one event loop. */
  private final class Receiving {
    private final CompletableFuture<Received> result = new CompletableFuture<>();
    private final HttpServerRequest request;
    private final RoutingContext context;
    private final Vertx vertx;
    private final Context loop;
    private final long expected;
    private final long begun = System.nanoTime();
    private final Path directory;
    private final UploadFiles files;
    private Buffer pending = Buffer.buffer();
    private long lastCame = begun;
    private long bytes;
    private long timer;
    private boolean writing;
    private boolean ended;
    private boolean over;
    private Crowd.@Nullable Place place;
    private @Nullable Throwable failure;

    Receiving(RoutingContext context, String boundary, long expected) {
      this.context = context;
      this.request = context.request();
      this.vertx = context.vertx();
      this.loop = Vertx.currentContext();
      this.expected = expected;
      this.directory = spool.create();
      this.files = new UploadFiles(directory, boundary, disk);
    }

    /** False when there is no place, and the upload is given up. */
    private boolean enter() {
      try {
        place = bodies.crowd().enter(Addresses.of(request));
        return true;
      } catch (CellarException e) {
        fail(e);
        return false;
      }
    }

    void begin() {
      disk.promise(expected);
      timer = vertx.setPeriodic(Bodies.PROMPT_MS, tick -> look());
      context.addEndHandler(gone -> fail(brokenOff()));
      if (expected > LARGE_BYTES && !enter()) {
        return;
      }
      request.handler(this::came);
      request.endHandler(
          nothing -> {
            ended = true;
            write();
          });
      request.exceptionHandler(broken -> fail(brokenOff()));
      Bodies.sayContinue(context);
      request.resume();
    }

    private void came(Buffer piece) {
      lastCame = System.nanoTime();
      bytes += piece.length();
      if (bytes > mostBytes) {
        fail(
            new CellarException(
                ProblemCode.TOO_LARGE,
                "the upload is larger than "
                    + (mostBytes >> 20)
                    + " MiB (VINE_UPLOAD_MAX_MEGABYTES); send it in parts of one run (--run KEY)"));
        return;
      }
      pending.appendBuffer(piece);
      if (pending.length() >= PAUSE_BYTES) {
        request.pause();
      }
      write();
    }

    private void look() {
      long now = System.nanoTime();
      if (place == null && !ended && !enter()) {
        return;
      }
      boolean stalls = !ended && !writing && now - lastCame > idle.toNanos();
      if (stalls || now - begun > LONGEST.toNanos()) {
        fail(
            new CellarException(
                ProblemCode.TOO_SLOW,
                "nothing came of the upload for "
                    + idle.toSeconds()
                    + " seconds, or all of it took too long; send it again"));
      }
    }

    /** Hands what has come to a thread that writes, one piece at a time. */
    private void write() {
      if (writing) {
        return;
      }
      if (failure != null) {
        giveUp();
        return;
      }
      if (pending.length() == 0) {
        if (ended) {
          finish();
        }
        return;
      }
      byte[] piece = pending.getBytes();
      pending = Buffer.buffer();
      writing = true;
      Rooms.then(
          rooms.run(
              Room.SPOOL,
              () -> {
                files.take(piece);
                return true;
              }),
          loop,
          (done, e) -> written(e));
    }

    private void written(@Nullable Throwable e) {
      writing = false;
      lastCame = System.nanoTime();
      if (e != null) {
        fail(e);
        return;
      }
      if (!ended && failure == null) {
        request.resume();
      }
      write();
    }

    private void fail(Throwable e) {
      if (failure == null) {
        failure = e;
        if (!ended) {
          request.pause();
        }
      }
      write();
    }

    private void giveUp() {
      if (!over) {
        over = true;
        leave();
        Throwable e = failure == null ? brokenOff() : failure;
        Rooms.then(
            rooms.run(
                Room.SWEEP,
                () -> {
                  closeAndRemove();
                  return true;
                }),
            (done, left) -> result.completeExceptionally(e));
      }
    }

    private void closeAndRemove() {
      try {
        files.close();
      } finally {
        UploadSpool.remove(directory);
      }
    }

    private void finish() {
      if (!over) {
        try {
          Received received = new Received(directory, files.end(), bytes);
          over = true;
          leave();
          result.complete(received);
        } catch (CellarException e) {
          failure = e;
          giveUp();
        }
      }
    }

    private void leave() {
      vertx.cancelTimer(timer);
      disk.promise(-expected);
      if (place != null) {
        place.leave();
      }
    }
  }

  static CellarException brokenOff() {
    return new CellarException(
        ProblemCode.INVALID_VALUE, "the upload was broken off; nothing of it was kept");
  }
}
